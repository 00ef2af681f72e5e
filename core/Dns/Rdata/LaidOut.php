<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** For record types whose data is a row of parts: text, wire and form follow from the parts; the class adds what is its own. */
trait LaidOut
{
    /** @param  list<int|string|\HarborPost\Core\Dns\Name>  $values  in the order of the parts */
    private function __construct(public readonly array $values)
    {
        $this->check();
    }

    abstract public function type(): RecordType;

    /** @return non-empty-list<Part> */
    abstract public static function parts(): array;

    public static function fromText(Fields $fields): self
    {
        $values = [];
        foreach (self::parts() as $part) {
            $values[] = $part->read($fields);
        }

        return new self($values);
    }

    public static function fromWire(ByteReader $reader): self
    {
        $values = [];
        foreach (self::parts() as $part) {
            $values[] = $part->take($reader);
        }

        return new self($values);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return implode(
            '',
            array_map(static fn (Part $p, int|string|\HarborPost\Core\Dns\Name $v): string => $p->wire($v), self::parts(), $this->values),
        );
    }

    public function canonical(): string
    {
        return implode(
            '',
            array_map(
                static fn (Part $p, int|string|\HarborPost\Core\Dns\Name $v): string => $p->wire($v, true),
                self::parts(),
                $this->values,
            ),
        );
    }

    public function text(): string
    {
        return implode(
            ' ',
            array_map(static fn (Part $p, int|string|\HarborPost\Core\Dns\Name $v): string => $p->text($v), self::parts(), $this->values),
        );
    }

    /** A part that is a number, by its place. */
    private function number(int $part): int
    {
        return is_int($this->values[$part]) ? $this->values[$part] : 0;
    }

    /** What the parts cannot say: lengths that depend on an algorithm, names that have to be there. */
    private function check(): void
    {
    }
}
