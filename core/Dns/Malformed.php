<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

/** Text that is not the DNS value it should be; the offset is in bytes from 0 within the text given. */
final class Malformed extends \InvalidArgumentException
{
    private function __construct(
        string $message,
        public readonly int $offset,
        public readonly string $standard,
        /** which field of a record, counted from 0; null when the fault is not in a field */
        public readonly ?int $field = null,
    ) {
        parent::__construct($message);
    }

    public static function because(string $message, string $standard, int $offset = 0): self
    {
        return new self($message, $offset, $standard);
    }

    public function inField(int $field): self
    {
        return new self($this->getMessage(), $this->offset, $this->standard, $field);
    }
}
