<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Name;

/** Signing of messages by a shared key and checking of such signatures (RFC 8945). */
final class Tsig
{
    /** Seconds by which two clocks may differ (RFC 8945 §10). */
    public const FUDGE = 300;

    private const TYPE = 250;

    private const ANY = 255;

    /** An answer that refuses a signature says so with NOTAUTH. */
    private const NOT_AUTH = 9;

    /**
     * @param  string  $message  a whole message without TSIG
     * @param  int  $now  seconds since 1970
     * @param  ?string  $before  MAC of the question that this answers, or of the message before it in a transfer
     * @param  bool  $further  not the first message of a transfer, so only the times are covered (RFC 8945 §5.3.1)
     * @return array{string, string} the signed message, and its MAC for the one after
     */
    public static function sign(string $message, TsigKey $key, int $now, ?string $before = null, bool $further = false): array
    {
        $times = self::time($now).pack('n', self::FUDGE);
        $mac = self::mac($key, $before, $message, $further ? $times : self::variables($key, $times, 0, ''));

        return [self::attach($message, $key->name, $key->algorithm, $times, $mac, 0, ''), $mac];
    }

    /**
     * An answer that refuses the signature of a question: unsigned, except that a wrong time is signed and says ours (RFC 8945 §5.3.2).
     *
     * @param  string  $answer  a whole message without TSIG
     */
    public static function refuse(string $answer, Signature $signature, int $now): string
    {
        $answer[3] = chr(ord($answer[3]) & 0xF0 | self::NOT_AUTH);
        $name = Name::tryParse($signature->keyName) ?? Name::root();
        if ($signature->state !== Signature::BAD_TIME || $signature->key === null) {
            $algorithm = $signature->key->algorithm ?? TsigAlgorithm::Sha256;

            return self::attach($answer, $name, $algorithm, self::time($now).pack('n', self::FUDGE), '', $signature->code(), '');
        }
        $key = $signature->key;
        $times = self::time($signature->time).pack('n', self::FUDGE);
        $mac = self::mac($key, $signature->mac, $answer, self::variables($key, $times, $signature->code(), self::time($now)));

        return self::attach($answer, $name, $key->algorithm, $times, $mac, $signature->code(), self::time($now));
    }

    /**
     * @param  string  $message  as it came
     * @param  list<TsigKey>  $keys
     * @param  int  $now  seconds since 1970
     * @return array{Signature, string} what was found, and the message without its TSIG
     *
     * @throws MalformedBytes when the message cannot be walked, or the TSIG is not its last record
     */
    public static function check(string $message, array $keys, int $now, ?string $before = null, bool $further = false): array
    {
        $at = self::place($message);
        if ($at === null) {
            return [new Signature(Signature::NONE), $message];
        }
        $reader = new ByteReader($message, $at);
        $name = Name::fromWire($reader)->lower();
        $head = $reader->take(8);
        $length = $reader->uint16();
        if ($head !== pack('nnN', self::TYPE, self::ANY, 0) || $length !== $reader->remaining()) {
            throw MalformedBytes::at($at, 'a TSIG of class ANY with TTL 0 that ends the message');
        }
        $algorithm = Name::fromWire($reader)->lower();
        $times = $reader->take(8);
        $mac = $reader->take($reader->uint16());
        $id = $reader->uint16();
        $error = $reader->uint16();
        $other = $reader->take($reader->uint16());
        $reader->expectEnd('the TSIG');
        $bare = substr($message, 0, $at);
        $bare = pack('n', $id).substr($bare, 2, 8).pack('n', (ord($bare[10]) << 8 | ord($bare[11])) - 1).substr($bare, 12);
        $key = null;
        foreach ($keys as $one) {
            $key = $one->name->equals($name) ? $one : $key;
        }
        $signedAt = ord($times[0]) << 40 | ord($times[1]) << 32 | ord($times[2]) << 24
            | ord($times[3]) << 16 | ord($times[4]) << 8 | ord($times[5]);
        $found = static fn (string $state): Signature => new Signature($state, (string) $name, $key, $mac, $signedAt, $error);
        if ($key === null || (string) $algorithm !== $key->algorithm->value.'.') {
            return [$found(Signature::BAD_KEY), $bare];
        }
        $expected = self::mac($key, $before, $bare, $further ? $times : self::variables($key, $times, $error, $other));
        // A MAC may be cut to half its length at the least (RFC 8945 §5.2.2.1).
        $whole = $key->algorithm->length();
        if (strlen($mac) < $whole / 2 || strlen($mac) > $whole || ! hash_equals(substr($expected, 0, strlen($mac)), $mac)) {
            return [$found(Signature::BAD_SIGNATURE), $bare];
        }
        $fudge = ord($times[6]) << 8 | ord($times[7]);

        return [$found(abs($now - $signedAt) > $fudge ? Signature::BAD_TIME : Signature::GOOD), $bare];
    }

    /** Where the TSIG record begins; null when the message has none. */
    private static function place(string $message): ?int
    {
        $reader = new ByteReader($message);
        $reader->take(4);
        $counts = [$reader->uint16(), $reader->uint16(), $reader->uint16(), $reader->uint16()];
        for ($i = 0; $i < $counts[0]; $i++) {
            Name::fromWire($reader);
            $reader->take(4);
        }
        $records = $counts[1] + $counts[2] + $counts[3];
        for ($i = 1; $i <= $records; $i++) {
            $at = $reader->position();
            Name::fromWire($reader);
            $type = $reader->uint16();
            $reader->take(6);
            $reader->take($reader->uint16());
            if ($type === self::TYPE) {
                return $i === $records && $counts[3] > 0 ? $at : throw MalformedBytes::at($at, 'the TSIG as the last record');
            }
        }

        return null;
    }

    private static function mac(TsigKey $key, ?string $before, string $message, string $variables): string
    {
        $covered = ($before === null ? '' : pack('n', strlen($before)).$before).$message.$variables;

        return hash_hmac($key->algorithm->hash(), $covered, $key->secret, true);
    }

    private static function variables(TsigKey $key, string $times, int $error, string $other): string
    {
        return $key->name->wire.pack('nN', self::ANY, 0).$key->algorithm->wire().$times.pack('nn', $error, strlen($other)).$other;
    }

    private static function attach(
        string $message,
        Name $name,
        TsigAlgorithm $algorithm,
        string $times,
        string $mac,
        int $error,
        string $other,
    ): string {
        $data = $algorithm->wire().$times.pack('n', strlen($mac)).$mac.substr($message, 0, 2).pack('nn', $error, strlen($other)).$other;
        $count = (ord($message[10]) << 8 | ord($message[11])) + 1;

        return substr($message, 0, 10)
            .pack('n', $count)
            .substr($message, 12)
            .$name->wire
            .pack('nnNn', self::TYPE, self::ANY, 0, strlen($data))
            .$data;
    }

    /** 48 bits. */
    private static function time(int $seconds): string
    {
        return pack('nN', $seconds >> 32 & 0xFFFF, $seconds & 0xFFFFFFFF);
    }
}
