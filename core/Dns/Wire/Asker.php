<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

use HarborPost\Core\Dns\Rdata\Opt;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/**
 * Who asks, for whom, and how long they will wait, as EDNS options carry it. On loopback every packet comes from one address, so the
 * asker says itself what the network would show.
 */
final readonly class Asker
{
    /** Client subnet (RFC 7871 §6): for whom, which decides the view. */
    private const CLIENT_SUBNET = 8;

    /** Of the range for local use (RFC 6891 §9): the address from which a packet would come. */
    private const SOURCE = 65001;

    /** Of the same range: milliseconds that the asker will wait, so that a chain of servers gives up from its far end. */
    private const PATIENCE = 65002;

    /** @param  ?float  $patience  seconds */
    public function __construct(public ?Address $client = null, public ?Address $source = null, public ?float $patience = null)
    {
    }

    /** What a message says; options that are too short are passed over. */
    public static function of(Message $message): self
    {
        $client = $source = $patience = null;
        foreach ($message->edns->options->options ?? [] as [$code, $bytes]) {
            $size = strlen($bytes);
            if ($code === self::CLIENT_SUBNET && $size >= 4) {
                $whole = ord($bytes[1]) === 1 ? 4 : 16;
                $client = Address::fromBytes(str_pad(substr($bytes, 4, $whole), $whole, "\0"));
            } elseif ($code === self::SOURCE && ($size === 4 || $size === 16)) {
                $source = Address::fromBytes($bytes);
            } elseif ($code === self::PATIENCE && $size === 2) {
                $patience = (ord($bytes[0]) << 8 | ord($bytes[1])) / 1000;
            }
        }

        return new self($client, $source, $patience);
    }

    public function edns(bool $dnssecOk = false): Edns
    {
        $options = [];
        $this->patience === null ?: $options[] = [self::PATIENCE, pack('n', (int) ($this->patience * 1000))];
        $this->source === null ?: $options[] = [self::SOURCE, $this->source->bytes];
        $this->client === null ?: $options[] = [
            self::CLIENT_SUBNET,
            pack('nCC', $this->client->family === Family::V4 ? 1 : 2, $this->client->family->bits(), 0).$this->client->bytes,
        ];

        return new Edns(dnssecOk: $dnssecOk, options: new Opt($options));
    }
}
