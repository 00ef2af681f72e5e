<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Net\Family;

/** Shapes that an option of one's own may have: what stands in the payload of a code that no standard defines. */
enum OwnShape: string
{
    case Address = 'address';
    case Addresses = 'addresses';
    case Text = 'text';
    case Byte = 'uint8';
    case Short = 'uint16';
    case Long = 'uint32';
    case Shorts = 'uint16s';
    case Names = 'names';
    case SubOptions = 'suboptions';
    case Bytes = 'bytes';

    /** What it holds, for a list of choices. */
    public function words(): string
    {
        return match ($this) {
            self::Address => 'one address',
            self::Addresses => 'addresses',
            self::Text => 'a text',
            self::Byte => 'a number of one byte',
            self::Short => 'a number of two bytes',
            self::Long => 'a number of four bytes',
            self::Shorts => 'numbers of two bytes',
            self::Names => 'domain names',
            self::SubOptions => 'sub-options',
            self::Bytes => 'bytes',
        };
    }

    public function of(Family $family): ValueShape
    {
        return match ($this) {
            self::Address => new Addresses(one: true, family: $family),
            self::Addresses => new Addresses(family: $family),
            self::Text => new Text,
            self::Byte => new Numbers(1),
            self::Short => new Numbers(2),
            self::Long => new Numbers(4),
            self::Shorts => new Numbers(2, false),
            self::Names => new Names(compressed: $family === Family::V4),
            self::SubOptions => new SubOptions($family),
            self::Bytes => new Opaque,
        };
    }

    /** @return array<string, string> */
    public static function choices(): array
    {
        return array_combine(
            array_map(static fn (self $s): string => $s->value, self::cases()),
            array_map(static fn (self $s): string => $s->words(), self::cases()),
        );
    }
}
