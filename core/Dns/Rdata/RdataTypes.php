<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\RecordType;

/** The one table from record type to class, and the two ways in. */
final class RdataTypes
{
    /** @var array<int, class-string<BuiltRdata>> */
    private const CLASSES = [
        RecordType::A => A::class,
        RecordType::NS => Ns::class,
        RecordType::CNAME => Cname::class,
        RecordType::SOA => Soa::class,
        RecordType::PTR => Ptr::class,
        RecordType::MX => Mx::class,
        RecordType::TXT => Txt::class,
        RecordType::AAAA => Aaaa::class,
        RecordType::SRV => Srv::class,
        RecordType::OPT => Opt::class,
        RecordType::CAA => Caa::class,
    ];

    public static function isBuilt(RecordType $type): bool
    {
        return isset(self::CLASSES[$type->number]);
    }

    /**
     * Presentation form, the type's own or the generic one of RFC 3597.
     *
     * @throws \HarborPost\Core\Dns\Malformed
     */
    public static function fromText(RecordType $type, Fields $fields): Rdata
    {
        $class = self::CLASSES[$type->number] ?? null;
        if ($fields->peek() === '\\#') {
            return self::generic($type, $fields);
        }
        if ($class === null) {
            throw $fields->fault("data of type $type is read only in the generic form \\# LENGTH HEX", 'RFC 3597 §5');
        }
        $data = $class::fromText($fields);
        $fields->expectEnd();

        return $data;
    }

    /** @throws MalformedBytes when the data is not consumed exactly */
    public static function fromWire(RecordType $type, ByteReader $reader): Rdata
    {
        $class = self::CLASSES[$type->number] ?? null;
        if ($class === null) {
            return new Opaque($type, $reader->rest());
        }
        $data = $class::fromWire($reader);
        $reader->expectEnd("the data of $type");

        return $data;
    }

    private static function generic(RecordType $type, Fields $fields): Rdata
    {
        $fields->raw('\\#');
        $length = $fields->number('the length', 16);
        $hex = '';
        while (! $fields->atEnd()) {
            $hex .= $fields->raw('the data');
        }
        try {
            $bytes = Hex::parse($hex);
            if (strlen($bytes) !== $length) {
                throw $fields->fault(sprintf('the length says %d bytes, here are %d', $length, strlen($bytes)), 'RFC 3597 §5');
            }

            return self::fromWire($type, new ByteReader($bytes));
        } catch (MalformedBytes $e) {
            throw $fields->fault("the generic data does not fit $type, {$e->getMessage()}", 'RFC 3597 §5');
        }
    }
}
