<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/** Which VLAN number is wanted: `110` that one, `110+` the first free from it on, `200-299` the first free in the range. */
final readonly class VlanPattern
{
    private function __construct(public int $from, public int $to)
    {
    }

    public static function tryParse(string $text): ?self
    {
        if (preg_match('/\A(\d{1,4})(?:(\+)|\s*-\s*(\d{1,4}))?\z/', trim($text), $m) !== 1) {
            return null;
        }
        $from = (int) $m[1];
        $to = match (true) {
            ($m[2] ?? '') === '+' => 4094,
            isset($m[3]) => (int) $m[3],
            default => $from,
        };

        return $from >= 1 && $to <= 4094 && $from <= $to ? new self($from, $to) : null;
    }

    /**
     * @param  array<int, true>  $taken  numbers in use
     * @return int|null null when none of the wanted ones is free
     */
    public function next(array $taken): ?int
    {
        for ($number = $this->from; $number <= $this->to; $number++) {
            if (! isset($taken[$number])) {
                return $number;
            }
        }

        return null;
    }
}
