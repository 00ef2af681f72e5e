<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\Rdata;
use HarborPost\Core\Dns\Rdata\RdataTypes;

/** One resource record (RFC 1035 §3.2.1); class IN unless it is said. */
final readonly class Record implements \Stringable
{
    public const IN = 1;

    public function __construct(
        public Name $owner,
        /** seconds; in an OPT record the extended code, version and flags (RFC 6891 §6.1.3) */
        public int $ttl,
        public Rdata $data,
        public int $class = self::IN,
    ) {
    }

    /**
     * From `owner ttl type data`, as lines of zones are compared and carried.
     *
     * @throws Malformed
     */
    public static function ofLine(string $line): self
    {
        [$owner, $ttl, $type, $data] = explode(' ', $line, 4) + ['', '0', '', ''];

        return new self(Name::parse($owner), (int) $ttl, RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($data)));
    }

    public function type(): RecordType
    {
        return $this->data->type();
    }

    /** Same owner, type and data; the TTL does not count. */
    public function sameData(self $other): bool
    {
        return $this->owner->equals($other->owner) && $this->identity() === $other->identity();
    }

    /** Type and canonical data: the same for records that a record set may not hold twice (RFC 2181 §5). */
    public function identity(): string
    {
        return $this->type()->number.':'.$this->data->canonical();
    }

    public function withTtl(int $ttl): self
    {
        return new self($this->owner, $ttl, $this->data, $this->class);
    }

    /** Canonical order in a zone: owner, SOA first, type, data (RFC 4034 §6). */
    public function compare(self $other): int
    {
        return $this->owner->compare($other->owner) ?: strcmp($this->orderInName(), $other->orderInName());
    }

    /** Bytes whose order is the order of records at one name. */
    public function orderInName(): string
    {
        $number = $this->type()->number;

        return pack('n', $number === RecordType::SOA ? 0 : $number).$this->data->canonical();
    }

    /** One line of a zone file, absolute and in lower case. */
    public function __toString(): string
    {
        return strtolower((string) $this->owner)." $this->ttl IN {$this->data->type()} {$this->data->text()}";
    }
}
