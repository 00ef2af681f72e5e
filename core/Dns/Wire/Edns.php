<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Opt;
use HarborPost\Core\Dns\Record;

/** What an OPT record says about its sender (RFC 6891 §6.1.3). */
final readonly class Edns
{
    public function __construct(
        /** bytes of UDP payload the sender can take */
        public int $udpSize = 1232,
        public bool $dnssecOk = false,
        public int $version = 0,
        /** the upper eight bits of the response code */
        public int $extendedCode = 0,
        public Opt $options = new Opt,
    ) {
    }

    public static function fromRecord(Record $record): self
    {
        $options = $record->data instanceof Opt ? $record->data : new Opt;

        return new self($record->class, ($record->ttl & 0x8000) !== 0, $record->ttl >> 16 & 0xFF, $record->ttl >> 24 & 0xFF, $options);
    }

    public function record(): Record
    {
        return new Record(
            Name::root(),
            $this->extendedCode << 24 | $this->version << 16 | ($this->dnssecOk ? 0x8000 : 0),
            $this->options,
            $this->udpSize,
        );
    }
}
