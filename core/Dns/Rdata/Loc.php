<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/**
 * Where something is on the earth (RFC 1876): thousandths of an arc second from the equator and from Greenwich, centimetres above the
 * reference ellipsoid, and sizes and precisions as a digit and a power of ten in centimetres.
 */
final readonly class Loc implements BuiltRdata
{
    private const MIDDLE = 1 << 31;

    private const GROUND = 10_000_000;

    private function __construct(
        public int $latitude,
        public int $longitude,
        public int $altitude,
        /** one byte each: digit × 16 + power of ten, in centimetres */
        public int $size,
        public int $horizontal,
        public int $vertical,
    ) {
    }

    public static function fromText(Fields $fields): self
    {
        $latitude = self::angle($fields, 'N', 'S', 90);
        $longitude = self::angle($fields, 'E', 'W', 180);
        $altitude = self::metres($fields, 'the altitude', -100000.0, 42849672.95);
        $sizes = [];
        foreach ([['the size', 100], ['the horizontal precision', 1000000], ['the vertical precision', 1000]] as [$what, $default]) {
            $sizes[] = self::packed($fields->atEnd() ? $default : (int) round(self::metres($fields, $what, 0, 90000000) * 100));
        }

        return new self($latitude, $longitude, (int) round($altitude * 100) + self::GROUND, ...$sizes);
    }

    public static function fromWire(ByteReader $reader): self
    {
        $at = $reader->position();
        $version = $reader->uint8();
        if ($version !== 0) {
            throw MalformedBytes::at($at, 'version 0 of LOC');
        }
        $sizes = [$reader->uint8(), $reader->uint8(), $reader->uint8()];
        foreach ($sizes as $i => $size) {
            if ($size >> 4 > 9 || ($size & 15) > 9) {
                throw MalformedBytes::at($at + 1 + $i, 'a digit and a power of ten, each at most 9');
            }
        }

        return new self($reader->uint32(), $reader->uint32(), $reader->uint32(), ...$sizes);
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::LOC);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return pack('C4N3', 0, $this->size, $this->horizontal, $this->vertical, $this->latitude, $this->longitude, $this->altitude);
    }

    public function canonical(): string
    {
        return $this->wire();
    }

    public function text(): string
    {
        return self::written($this->latitude, 'N', 'S')
            .' '
            .self::written($this->longitude, 'E', 'W')
            .' '
            .self::metre($this->altitude - self::GROUND)
            .' '
            .implode(
                ' ',
                array_map(
                    static fn (int $b): string => self::metre(($b >> 4) * 10 ** ($b & 15)),
                    [$this->size, $this->horizontal, $this->vertical],
                ),
            );
    }

    /** Degrees, perhaps minutes, perhaps seconds with a fraction, and a direction. */
    private static function angle(Fields $fields, string $positive, string $negative, int $most): int
    {
        $parts = [];
        while (($word = strtoupper((string) $fields->peek())) !== $positive && $word !== $negative) {
            $text = $fields->raw("$positive or $negative");
            if (count($parts) >= 3 || preg_match(count($parts) < 2 ? '/\A\d{1,3}\z/' : '/\A\d{1,2}(\.\d{1,3})?\z/', $text) !== 1) {
                throw $fields->fault("degrees, minutes and seconds, then $positive or $negative, not \"$text\"", 'RFC 1876 §3');
            }
            $parts[] = $text;
        }
        $direction = strtoupper($fields->raw('the direction'));
        [$degrees, $minutes, $seconds] = [...$parts, 0, 0, 0];
        $value = ((int) $degrees * 60 + (int) $minutes) * 60000 + (int) round((float) $seconds * 1000);
        if ($parts === [] || (int) $minutes > 59 || (float) $seconds >= 60 || $value > $most * 3600000) {
            throw $fields->fault("at most $most degrees, 59 minutes and 59.999 seconds", 'RFC 1876 §3');
        }

        return self::MIDDLE + ($direction === $positive ? $value : -$value);
    }

    private static function metres(Fields $fields, string $what, float $least, float $most): float
    {
        $text = $fields->raw($what);
        if (preg_match('/\A(-?\d{1,8}(?:\.\d{1,2})?)m?\z/i', $text, $m) !== 1 || (float) $m[1] < $least || (float) $m[1] > $most) {
            throw $fields->fault("$what is in metres, from $least to $most, not \"$text\"", 'RFC 1876 §3');
        }

        return (float) $m[1];
    }

    /** Centimetres as a digit and a power of ten, rounded down to one digit. */
    private static function packed(int $centimetres): int
    {
        for ($power = 0; $centimetres >= 10 && $power < 9; $power++) {
            $centimetres = intdiv($centimetres, 10);
        }

        return min(9, $centimetres) << 4 | $power;
    }

    private static function written(int $value, string $positive, string $negative): string
    {
        $off = abs($value - self::MIDDLE);

        return sprintf(
            '%d %d %d.%03d %s',
            intdiv($off, 3600000),
            intdiv($off, 60000) % 60,
            intdiv($off, 1000) % 60,
            $off % 1000,
            $value < self::MIDDLE ? $negative : $positive,
        );
    }

    private static function metre(int $centimetres): string
    {
        return ($centimetres < 0 ? '-' : '').sprintf('%d.%02dm', intdiv(abs($centimetres), 100), abs($centimetres) % 100);
    }
}
