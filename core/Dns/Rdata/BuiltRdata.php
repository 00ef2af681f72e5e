<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;

/** A record type with fields of its own, made from its text or wire form. */
interface BuiltRdata extends Rdata
{
    /** Reads its fields and leaves the rest; the caller checks that nothing is left. */
    public static function fromText(Fields $fields): self;

    /** Reads from a reader that ends where the data ends and can follow pointers into the message. */
    public static function fromWire(ByteReader $reader): self;
}
