<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** Data of a type that has no class of its own, kept byte for byte and written as RFC 3597 §5 says: `\# 4 0a000001`. */
final readonly class Opaque implements Rdata
{
    public function __construct(private RecordType $type, public string $bytes)
    {
    }

    public function type(): RecordType
    {
        return $this->type;
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return $this->bytes;
    }

    public function canonical(): string
    {
        return $this->bytes;
    }

    public function text(): string
    {
        return rtrim(sprintf('\\# %d %s', strlen($this->bytes), bin2hex($this->bytes)));
    }
}
