<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp;

/** A DHCP option whose value or bytes do not have its shape. */
final class BadOption extends \InvalidArgumentException
{
    private function __construct(string $message, public readonly ?int $option, public readonly ?int $offset)
    {
        parent::__construct($message);
    }

    /** A value that cannot be encoded. */
    public static function value(string $value, string $expected): self
    {
        return new self("\"$value\": $expected", null, null);
    }

    /** Bytes that cannot be decoded; the offset counts from the start of the payload. */
    public static function bytes(int $offset, string $expected): self
    {
        return new self("byte $offset: $expected", null, $offset);
    }

    public function ofCode(int $code): self
    {
        return new self("option $code, {$this->getMessage()}", $code, $this->offset);
    }
}
