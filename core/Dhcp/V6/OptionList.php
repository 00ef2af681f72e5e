<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Bytes\MalformedBytes;

/** Options in their order, each a code and a payload of two bytes' length (RFC 8415 §21.1); one code may stand there more than once. */
final readonly class OptionList
{
    /** @param  list<array{int, string}>  $all  code, payload */
    public function __construct(public array $all = [])
    {
    }

    /** @throws MalformedBytes with the offset */
    public static function fromWire(ByteReader $reader): self
    {
        $all = [];
        while (! $reader->atEnd()) {
            $code = $reader->uint16();
            $all[] = [$code, $reader->take($reader->uint16())];
        }

        return new self($all);
    }

    public function wire(): string
    {
        $bytes = '';
        foreach ($this->all as [$code, $payload]) {
            $bytes .= pack('nn', $code, strlen($payload)).$payload;
        }

        return $bytes;
    }

    public function first(int $code): ?string
    {
        return $this->each($code)[0] ?? null;
    }

    /** @return list<string> */
    public function each(int $code): array
    {
        return array_values(array_map(
            static fn (array $o): string => $o[1],
            array_filter($this->all, static fn (array $o): bool => $o[0] === $code),
        ));
    }

    public function has(int $code): bool
    {
        return $this->each($code) !== [];
    }

    public function with(int $code, string $payload): self
    {
        return new self([...$this->all, [$code, $payload]]);
    }

    public function without(int $code): self
    {
        return new self(array_values(array_filter($this->all, static fn (array $o): bool => $o[0] !== $code)));
    }
}
