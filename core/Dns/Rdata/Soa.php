<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;

/** The start of a zone: its primary, its mailbox, its serial and its timers in seconds (RFC 1035 §3.3.13, RFC 2308 §4). */
final readonly class Soa implements BuiltRdata
{
    public function __construct(
        public Name $primary,
        public Name $mailbox,
        public Serial $serial,
        public int $refresh,
        public int $retry,
        public int $expire,
        /** how long a "no such name" may be kept */
        public int $negativeTtl,
    ) {
    }

    public static function fromText(Fields $fields): self
    {
        return new self(
            $fields->name('the primary name server'),
            $fields->name('the mailbox'),
            Serial::of($fields->number('the serial', 32)),
            $fields->time('refresh'),
            $fields->time('retry'),
            $fields->time('expire'),
            $fields->time('the negative TTL'),
        );
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self(
            Name::fromWire($reader),
            Name::fromWire($reader),
            Serial::of($reader->uint32()),
            $reader->uint32(),
            $reader->uint32(),
            $reader->uint32(),
            $reader->uint32(),
        );
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::SOA);
    }

    public function withSerial(Serial $serial): self
    {
        return new self($this->primary, $this->mailbox, $serial, $this->refresh, $this->retry, $this->expire, $this->negativeTtl);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        if ($names === null) {
            return $this->primary->wire.$this->mailbox->wire.$this->numbers();
        }
        $primary = $names->encode($this->primary, $offset);

        return $primary.$names->encode($this->mailbox, $offset + strlen($primary)).$this->numbers();
    }

    public function canonical(): string
    {
        return $this->primary->key().$this->mailbox->key().$this->numbers();
    }

    public function text(): string
    {
        $timers = "$this->refresh $this->retry $this->expire $this->negativeTtl";

        return "{$this->primary->lower()} {$this->mailbox->lower()} $this->serial $timers";
    }

    private function numbers(): string
    {
        return pack('N5', $this->serial->value, $this->refresh, $this->retry, $this->expire, $this->negativeTtl);
    }
}
