<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Names;

use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Dns\Name;

/** Who a client is, as the data of a DHCID record say it: a digest over its identifier and the name (RFC 4701 §3.5). */
final readonly class ClientIdentity
{
    private const HARDWARE = 0;

    private const CLIENT_ID = 1;

    private const DUID = 2;

    private const SHA256 = 1;

    /** A client identifier of this type carries an IAID and a DUID (RFC 4361 §6.1). */
    private const NODE_SPECIFIC = 255;

    private function __construct(private int $kind, private string $identifier)
    {
    }

    /** @param  string  $address  bytes */
    public static function ofHardware(string $address, int $type = 1): self
    {
        return new self(self::HARDWARE, chr($type).$address);
    }

    /** @param  string  $identifier  payload of option 61 */
    public static function ofClientId(string $identifier): self
    {
        return strlen($identifier) > 5 && ord($identifier[0]) === self::NODE_SPECIFIC
            ? self::ofDuid(substr($identifier, 5))
            : new self(self::CLIENT_ID, $identifier);
    }

    public static function ofDuid(string $duid): self
    {
        return new self(self::DUID, $duid);
    }

    public static function of(Packet $packet): self
    {
        $identifier = $packet->options[OptionTable::CLIENT_ID] ?? '';

        return $identifier === '' ? self::ofHardware($packet->hardware->bytes) : self::ofClientId($identifier);
    }

    /** @return string the bytes of a DHCID record's data for this client at this name */
    public function at(Name $name): string
    {
        return pack('nC', $this->kind, self::SHA256).hash('sha256', $this->identifier.$name->key(), true);
    }
}
