<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/**
 * The data of one record type: text form and wire form side by side.
 *
 * For every value: fromText(text()) and fromWire(wire()) give an equal value; unequal values differ in canonical().
 */
interface Rdata
{
    public function type(): RecordType;

    /** Wire form; names are compressed where RFC 3597 §4 allows it and a compressor is given, which counts from $offset. */
    public function wire(?NameCompressor $names = null, int $offset = 0): string;

    /** Wire form without compression, names in lower case (RFC 4034 §6.2). */
    public function canonical(): string;

    /** Presentation form, names absolute and in lower case. */
    public function text(): string;
}
