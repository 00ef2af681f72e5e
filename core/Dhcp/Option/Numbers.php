<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;

/** Whole numbers of 1, 2 or 4 bytes: exactly one, or one and more; optionally signed, optionally a choice of names. */
final readonly class Numbers implements ValueShape
{
    /** @param  array<int, string>  $names  number → word */
    public function __construct(
        private int $bytes,
        private bool $one = true,
        private bool $signed = false,
        private array $names = [],
        private string $unit = '',
    ) {
    }

    public function hint(): string
    {
        [$least, $most] = $this->bounds();
        $what = $this->names === [] ? "a number from $least to $most" : implode(', ', $this->names);

        return ($this->one ? $what : "numbers, each $least to $most").($this->unit === '' ? '' : ", in $this->unit");
    }

    public function encode(array $values): string
    {
        if ($values === [] || $this->one && count($values) !== 1) {
            throw BadOption::value(implode(' ', $values), $this->hint());
        }
        $payload = '';
        foreach ($values as $value) {
            $payload .= substr(pack('N', $this->number($value) & 0xFFFFFFFF), 4 - $this->bytes);
        }

        return $payload;
    }

    public function decode(string $payload): array
    {
        $size = strlen($payload);
        if ($size === 0 || $size % $this->bytes !== 0 || $this->one && $size !== $this->bytes) {
            throw BadOption::bytes(0, $this->one ? "$this->bytes bytes, not $size" : "numbers of $this->bytes bytes each, not $size bytes");
        }

        return array_map($this->text(...), str_split($payload, max(1, $this->bytes)));
    }

    private function number(string $value): int
    {
        [$least, $most] = $this->bounds();
        $named = array_search(strtolower(trim($value)), array_map(strtolower(...), $this->names), true);
        if ($named !== false) {
            return $named;
        }
        if (preg_match('/\A\s*-?\d{1,10}\s*\z/', $value) !== 1 || (int) $value < $least || (int) $value > $most) {
            throw BadOption::value($value, $this->hint());
        }

        if ($this->names !== [] && ! isset($this->names[(int) $value])) {
            throw BadOption::value($value, $this->hint());
        }

        return (int) $value;
    }

    private function text(string $bytes): string
    {
        $number = (int) hexdec(bin2hex($bytes));
        $number = $this->signed && $number > $this->bounds()[1] ? $number - (1 << $this->bytes * 8) : $number;

        if ($this->names !== [] && ! isset($this->names[$number])) {
            throw BadOption::bytes(
                0,
                implode(' or ', array_map(static fn (int $n, string $w): string => "$n ($w)", array_keys($this->names), $this->names))
                    .", not $number",
            );
        }

        return $this->names[$number] ?? (string) $number;
    }

    /** @return array{int, int} */
    private function bounds(): array
    {
        $bits = $this->bytes * 8;

        return $this->signed ? [-(1 << $bits - 1), (1 << $bits - 1) - 1] : [0, (1 << $bits) - 1];
    }
}
