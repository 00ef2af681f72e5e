<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** Which authority may issue certificates for the owner: flags, tag, value (RFC 8659 §4). */
final readonly class Caa implements BuiltRdata
{
    private function __construct(public int $flags, public string $tag, public string $value)
    {
    }

    public static function fromText(Fields $fields): self
    {
        $flags = $fields->number('flags', 8);
        $tag = $fields->raw('the tag');
        if (preg_match('/\A[A-Za-z0-9]{1,255}\z/', $tag) !== 1) {
            throw $fields->fault("a tag has letters and digits only, not \"$tag\"", 'RFC 8659 §4.1');
        }

        $value = $fields->text('the value');
        if (strlen($value) + strlen($tag) + 2 > 0xFFFF) {
            throw $fields->fault('the value is longer than a record can be', 'RFC 1035 §3.2.1');
        }

        return new self($flags, $tag, $value);
    }

    public static function fromWire(ByteReader $reader): self
    {
        $flags = $reader->uint8();
        $tag = $reader->take($reader->uint8());
        if (preg_match('/\A[A-Za-z0-9]+\z/', $tag) !== 1) {
            throw MalformedBytes::at($reader->position(), 'a tag of letters and digits');
        }
        $value = $reader->take($reader->remaining());

        return new self($flags, $tag, $value);
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::CAA);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return chr($this->flags).chr(strlen($this->tag)).$this->tag.$this->value;
    }

    public function canonical(): string
    {
        return $this->wire();
    }

    public function text(): string
    {
        return "$this->flags $this->tag ".Fields::quote($this->value);
    }
}
