<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Client;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;

/** A client as one describes it, and the messages that it would send. */
final readonly class ClientSketch
{
    /** @param  list<int>  $asked  parameter request list; none: it does not say */
    public function __construct(
        public MacAddress $mac,
        public string $name = '',
        public array $asked = [],
        public string $vendorClass = '',
        public string $userClass = '',
        /** payload of option 61; blank: Ethernet's type and the MAC address */
        public string $identifier = '',
        public string $circuit = '',
        public string $remote = '',
        public ?Address $requested = null,
    ) {
    }

    public function key(): ClientKey
    {
        return ClientKey::ofIdentifier($this->identifier) ?? ClientKey::ofMac($this->mac);
    }

    /** Text, or bytes as 0x…, as one types a value of an option. */
    public static function bytes(string $text): string
    {
        return str_starts_with($text, '0x') ? Hex::parse($text) : $text;
    }

    public function discover(int $xid, Address $relay): Packet
    {
        $options = $this->common();
        if ($this->requested !== null) {
            $options[OptionTable::REQUESTED_ADDRESS] = $this->requested->bytes;
        }

        return Packet::fromClient(MessageType::Discover, $xid, $this->mac, $options, $relay);
    }

    /** @return array<int, string> what every message of the client carries, and what its relay adds at the end (RFC 3046 §2.1) */
    public function common(): array
    {
        $options = [OptionTable::CLIENT_ID => $this->identifier !== '' ? $this->identifier : "\1".$this->mac->bytes];
        if ($this->name !== '') {
            $options[OptionTable::HOST_NAME] = $this->name;
        }
        if ($this->vendorClass !== '') {
            $options[60] = $this->vendorClass;
        }
        if ($this->userClass !== '') {
            $options[77] = chr(min(255, strlen($this->userClass))).substr($this->userClass, 0, 255);
        }
        if ($this->asked !== []) {
            $options[OptionTable::PARAMETERS] = implode('', array_map(chr(...), $this->asked));
        }
        $relay = '';
        foreach ([1 => $this->circuit, 2 => $this->remote] as $sub => $bytes) {
            $relay .= $bytes === '' ? '' : chr($sub).chr(min(255, strlen($bytes))).substr($bytes, 0, 255);
        }

        return $relay === '' ? $options : $options + [OptionTable::RELAY_AGENT => $relay];
    }
}
