<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;

/**
 * Reads a message of DHCPv6, or a run of its options, byte by byte and level by level (RFC 8415 §8, §9, §21), and says what it makes of
 * each; a fault ends the level that it stands in.
 *
 * @phpstan-type Line array{offset: int, depth: int, code: ?int, name: string, bytes: string, meaning: string, fault: ?string}
 */
final class OptionReader
{
    /** Levels that are read: relays, message, association, lease, status. */
    private const DEEPEST = 14;

    /** code → bytes of fields before the options that stand inside of it */
    private const INSIDE = [Code::IA_NA => 12, Code::IA_TA => 4, Code::IA_ADDRESS => 24, Code::IA_PD => 12, Code::IA_PREFIX => 25];

    /** @return list<Line> code: null for the head of a message */
    public static function read(string $bytes): array
    {
        return self::isMessage($bytes) ? self::message($bytes, 0, 0) : self::options($bytes, 0, 0);
    }

    /**
     * The payload of one option.
     *
     * @return list<Line>
     *
     * @throws BadOption for a code that is none
     */
    public static function one(int $code, string $payload): array
    {
        OptionTable::definition($code, Family::V6);

        return self::option($code, $payload, 0, 0, 0);
    }

    /** The first byte of an option is that of a code below 256, and so 0; no message has the type 0. */
    private static function isMessage(string $bytes): bool
    {
        return MessageType::tryFrom(ord($bytes[0] ?? "\0")) !== null;
    }

    /** @return list<Line> */
    private static function message(string $bytes, int $at, int $depth): array
    {
        $type = MessageType::tryFrom(ord($bytes[0] ?? "\0"));
        $relayed = $type === MessageType::RelayForward || $type === MessageType::RelayReply;
        $head = $relayed ? 34 : 4;
        if ($type === null || strlen($bytes) < $head) {
            $fault = $type === null ? 'no type of message' : sprintf('%d bytes of its head, %d are there', $head, strlen($bytes));

            return [self::line($at, $depth, null, $type?->label() ?? 'message', $bytes, '', $fault)];
        }
        $meaning = $relayed
            ? sprintf(
                'hops %d, link %s, peer %s',
                ord($bytes[1]),
                Address::fromBytes(substr($bytes, 2, 16)),
                Address::fromBytes(substr($bytes, 18, 16)),
            )
            : 'transaction '.bin2hex(substr($bytes, 1, 3));

        return [
            self::line($at, $depth, null, $type->label(), substr($bytes, 0, $head), $meaning, null),
            ...self::options(substr($bytes, $head), $at + $head, $depth + 1),
        ];
    }

    /** @return list<Line> */
    private static function options(string $bytes, int $from, int $depth): array
    {
        $lines = [];
        for ($at = 0, $length = strlen($bytes); $at < $length;) {
            if ($at + 4 > $length) {
                $lines[] = self::line($from + $at, $depth, null, 'option', substr($bytes, $at), '', 'code and length have 4 bytes');

                return $lines;
            }
            $code = (ord($bytes[$at]) << 8) + ord($bytes[$at + 1]);
            $size = (ord($bytes[$at + 2]) << 8) + ord($bytes[$at + 3]);
            $payload = substr($bytes, $at + 4, $size);
            if (strlen($payload) < $size) {
                $fault = sprintf('says %d bytes, %d are there', $size, strlen($payload));
                $lines[] = self::line($from + $at, $depth, $code, self::name($code), $payload, '', $fault);

                return $lines;
            }
            array_push($lines, ...self::option($code, $payload, $from + $at, 4, $depth));
            $at += 4 + $size;
        }

        return $lines;
    }

    /** @return list<Line> the option, and what stands inside of it */
    private static function option(int $code, string $payload, int $at, int $head, int $depth): array
    {
        [$meaning, $fault] = self::meaning($code, $payload);
        $fields = self::INSIDE[$code] ?? null;
        $own = $fields === null ? $payload : substr($payload, 0, $fields);
        $line = self::line($at, $depth, $code, self::name($code), $code === Code::RELAY_MESSAGE ? '' : $own, $meaning, $fault);
        if ($depth >= self::DEEPEST) {
            return [$line];
        }
        $inner = match (true) {
            $code === Code::RELAY_MESSAGE => self::message($payload, $at + $head, $depth + 1),
            $fields !== null && strlen($payload) > $fields => self::options(substr($payload, $fields), $at + $head + $fields, $depth + 1),
            default => [],
        };

        return [$line, ...$inner];
    }

    /** @return array{string, ?string} what it means, and what is wrong with it */
    private static function meaning(int $code, string $payload): array
    {
        $number = static fn (int $at): int => (int) hexdec(bin2hex(substr($payload, $at, 4)));
        $fields = self::INSIDE[$code] ?? null;
        if ($fields !== null && strlen($payload) < $fields) {
            return ['', sprintf('%d bytes of its fields, %d are there', $fields, strlen($payload))];
        }
        try {
            return [match ($code) {
                Code::IA_NA, Code::IA_PD => "number {$number(0)}, T1 {$number(4)} s, T2 {$number(8)} s",
                Code::IA_TA => "number {$number(0)}",
                Code::IA_ADDRESS => Address::fromBytes(substr($payload, 0, 16)).", preferred {$number(16)} s, valid {$number(20)} s",
                Code::IA_PREFIX => self::prefix($payload).", preferred {$number(0)} s, valid {$number(4)} s",
                Code::CLIENT_ID, Code::SERVER_ID => Duid::tryFrom($payload)?->words()
                    ?? throw MalformedBytes::at(0, 'a DUID of 3 to 130 bytes'),
                Code::STATUS => (StatusCode::of($payload)->name ?? throw MalformedBytes::at(0, 'a status from 0 to 11'))
                    .rtrim(' '.mb_scrub(substr($payload, 2), 'UTF-8')),
                Code::RELAY_MESSAGE => strlen($payload).' bytes',
                default => implode(', ', OptionTable::decode($code, $payload, Family::V6)),
            }, null];
        } catch (MalformedBytes $e) {
            return ['', "byte $e->offset: $e->expected"];
        } catch (BadOption $e) {
            return ['', (string) preg_replace('/\Aoption \d+, /', '', $e->getMessage())];
        }
    }

    private static function prefix(string $payload): string
    {
        return Address::fromBytes(substr($payload, 9, 16)).'/'.ord($payload[8]);
    }

    private static function name(int $code): string
    {
        return $code === 0 ? 'reserved' : OptionTable::definition($code, Family::V6)->name;
    }

    /** @return Line */
    private static function line(int $at, int $depth, ?int $code, string $name, string $bytes, string $meaning, ?string $fault): array
    {
        return ['offset' => $at, 'depth' => $depth, 'code' => $code, 'name' => $name, 'bytes' => $bytes, 'meaning' => $meaning,
            'fault' => $fault];
    }
}
