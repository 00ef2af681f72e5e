<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Client;

use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\Packet;

/** What a client says of itself, or its relay says of it, by which clients are told apart. */
enum ClientField: string
{
    case VendorClass = 'vendor-class';
    case UserClass = 'user-class';
    case ClientName = 'client-name';
    case HostName = 'host-name';
    case Architecture = 'architecture';
    case Machine = 'machine';
    case ClientId = 'client-id';
    case Mac = 'mac';
    case Circuit = 'circuit';
    case Remote = 'remote';
    case Subscriber = 'subscriber';
    case Enterprise = 'enterprise';

    public function label(): string
    {
        return match ($this) {
            self::VendorClass => 'vendor class (60)',
            self::UserClass => 'user class (77)',
            self::ClientName => 'full name of the client (81)',
            self::HostName => 'host name (12)',
            self::Architecture => 'architecture (93)',
            self::Machine => 'machine identifier (97)',
            self::ClientId => 'client identifier (61)',
            self::Mac => 'MAC address',
            self::Circuit => 'circuit of the relay (82.1)',
            self::Remote => 'remote end of the relay (82.2)',
            self::Subscriber => 'subscriber (82.6)',
            self::Enterprise => 'enterprise number (124)',
        };
    }

    public function standard(): string
    {
        return match ($this) {
            self::VendorClass => 'RFC 2132 §9.13',
            self::UserClass => 'RFC 3004 §4',
            self::ClientName => 'RFC 4702 §2',
            self::HostName => 'RFC 2132 §3.14',
            self::Architecture => 'RFC 4578 §2.1',
            self::Machine => 'RFC 4578 §2.3',
            self::ClientId => 'RFC 2132 §9.14',
            self::Mac => 'RFC 2131 §2',
            self::Circuit => 'RFC 3046 §3.1',
            self::Remote => 'RFC 3046 §3.2',
            self::Subscriber => 'RFC 3993 §3',
            self::Enterprise => 'RFC 3925 §3',
        };
    }

    /**
     * The bytes that a packet carries for it, one entry for each instance; none when it says nothing.
     *
     * @return list<string>
     */
    public function of(Packet $packet): array
    {
        $option = static fn (int $code): array => isset($packet->options[$code]) ? [$packet->options[$code]] : [];

        return match ($this) {
            self::VendorClass => $option(60),
            self::UserClass => self::classes($packet->options[77] ?? ''),
            // Flags and two reserved bytes stand before the name (RFC 4702 §2).
            self::ClientName => array_map(static fn (string $b): string => substr($b, 3), $option(81)),
            self::HostName => $option(OptionTable::HOST_NAME),
            self::Architecture => array_merge(...array_map(static fn (string $b): array => str_split($b, 2), $option(93))),
            self::Machine => $option(97),
            self::ClientId => $option(OptionTable::CLIENT_ID),
            self::Mac => [$packet->hardware->bytes],
            self::Circuit => self::relay($packet, 1),
            self::Remote => self::relay($packet, 2),
            self::Subscriber => self::relay($packet, 6),
            self::Enterprise => self::enterprises($packet->options[124] ?? ''),
        };
    }

    /**
     * User classes stand one after the other, each behind its length. Many clients send the bare text, against the standard: what does not
     * come out even is one class.
     *
     * @return list<string>
     */
    private static function classes(string $payload): array
    {
        $classes = [];
        for ($at = 0; $at < strlen($payload);) {
            $length = ord($payload[$at]);
            if ($length === 0 || $at + 1 + $length > strlen($payload)) {
                return [$payload];
            }
            $classes[] = substr($payload, $at + 1, $length);
            $at += 1 + $length;
        }

        return $classes;
    }

    /** @return list<string> */
    private static function relay(Packet $packet, int $sub): array
    {
        $payload = $packet->options[OptionTable::RELAY_AGENT] ?? '';
        $found = [];
        for ($at = 0; $at + 1 < strlen($payload); $at += 2 + ord($payload[$at + 1])) {
            if (ord($payload[$at]) === $sub) {
                $found[] = substr($payload, $at + 2, ord($payload[$at + 1]));
            }
        }

        return $found;
    }

    /** @return list<string> four bytes each */
    private static function enterprises(string $payload): array
    {
        $found = [];
        for ($at = 0; $at + 5 <= strlen($payload); $at += 5 + ord($payload[$at + 4])) {
            $found[] = substr($payload, $at, 4);
        }

        return $found;
    }
}
