<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Name;
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
        RecordType::HINFO => Hinfo::class,
        RecordType::RP => Rp::class,
        RecordType::LOC => Loc::class,
        RecordType::NAPTR => Naptr::class,
        RecordType::CERT => Cert::class,
        RecordType::DNAME => Dname::class,
        RecordType::DS => Ds::class,
        RecordType::SSHFP => Sshfp::class,
        RecordType::RRSIG => Rrsig::class,
        RecordType::NSEC => Nsec::class,
        RecordType::DNSKEY => Dnskey::class,
        RecordType::NSEC3 => Nsec3::class,
        RecordType::NSEC3PARAM => Nsec3param::class,
        RecordType::TLSA => Tlsa::class,
        RecordType::SMIMEA => Smimea::class,
        RecordType::CDS => Cds::class,
        RecordType::CDNSKEY => Cdnskey::class,
        RecordType::OPENPGPKEY => Openpgpkey::class, RecordType::DHCID => Dhcid::class,
        RecordType::SVCB => Svcb::class,
        RecordType::HTTPS => Https::class,
        RecordType::EUI48 => Eui48::class,
        RecordType::EUI64 => Eui64::class,
        RecordType::URI => Uri::class,
    ];

    /** Types that people write, the everyday ones first. */
    public const WRITTEN = [
        'A', 'AAAA', 'CNAME', 'MX', 'NS', 'PTR', 'SRV', 'TXT', 'CAA', 'HTTPS', 'SVCB', 'DNAME', 'NAPTR', 'SSHFP', 'TLSA', 'DS',
        'DNSKEY', 'CDS', 'CDNSKEY', 'LOC', 'HINFO', 'RP', 'URI', 'OPENPGPKEY', 'CERT', 'SMIMEA', 'EUI48', 'EUI64',
    ];

    /** @return list<Part>|null the parts of a type whose data is a row of them */
    public static function parts(RecordType $type): ?array
    {
        $class = self::CLASSES[$type->number] ?? null;

        return $class !== null && method_exists($class, 'parts') ? $class::parts() : null;
    }

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
        if (! $type->isData()) {
            throw $fields->fault("$type is no type of data: it only stands in questions and messages", 'RFC 6895 §3.1');
        }
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

            $data = self::fromWire($type, new ByteReader($bytes));
            // What the type's own form cannot say would be written as something else.
            $again = $data instanceof Opaque ? $data : self::fromText($type, Fields::ofLine($data->text(), Name::root()));

            return strtolower($again->wire()) === strtolower($data->wire())
                ? $data
                : throw $fields->fault("these bytes are no data of $type", 'RFC 3597 §5');
        } catch (MalformedBytes $e) {
            throw $fields->fault("the generic data does not fit $type, {$e->getMessage()}", 'RFC 3597 §5');
        }
    }
}
