<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Opt;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Edns;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/**
 * Questions on loopback carry what a packet on a network carries in its source address: by an option of the range for local use
 * (RFC 6891 §9) who asks, and by client subnet (RFC 7871 §6) for whom.
 */
final class Asking
{
    public const CLIENT_SUBNET = 8;

    public const SOURCE = 65001;

    /** How many milliseconds the asker will wait: so that a chain of servers gives up from its far end. */
    public const PATIENCE = 65002;

    /** @param  list<Record>  $authority  the SOA that is known, for a transfer by steps */
    public static function question(Name $name, RecordType $type, ?Address $source, ?Address $client, bool $recursion = false, array $authority = [], ?float $patience = null): Message
    {
        $options = $patience === null ? [] : [[self::PATIENCE, pack('n', (int) ($patience * 1000))]];
        $source === null ?: $options[] = [self::SOURCE, $source->bytes];
        $client === null ?: $options[] = [self::CLIENT_SUBNET, pack('nCC', $client->family === Family::V4 ? 1 : 2, $client->family->bits(), 0).$client->bytes];

        return new Message(random_int(0, 0xFFFF), recursionDesired: $recursion, questions: [new Question($name, $type)], authority: $authority, edns: new Edns(options: new Opt($options)));
    }

    /** Who asks, for permissions; loopback when it does not say. */
    public static function source(Message $query): Address
    {
        foreach ($query->edns->options->options ?? [] as [$code, $bytes]) {
            if ($code === self::SOURCE && in_array(strlen($bytes), [4, 16], true)) {
                return Address::fromBytes($bytes);
            }
        }

        return Address::parse('127.0.0.1');
    }

    /** Seconds that the asker will wait. */
    public static function patience(Message $query, float $usual): float
    {
        foreach ($query->edns->options->options ?? [] as [$code, $bytes]) {
            if ($code === self::PATIENCE && strlen($bytes) === 2) {
                return (ord($bytes[0]) << 8 | ord($bytes[1])) / 1000;
            }
        }

        return $usual;
    }

    /** For whom, which decides the view. */
    public static function client(Message $query): Address
    {
        foreach ($query->edns->options->options ?? [] as [$code, $bytes]) {
            if ($code === self::CLIENT_SUBNET && strlen($bytes) >= 4) {
                $size = ord($bytes[1]) === 1 ? 4 : 16;

                return Address::fromBytes(str_pad(substr($bytes, 4, $size), $size, "\0"));
            }
        }

        return self::source($query);
    }
}
