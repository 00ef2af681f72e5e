<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Client;

/** How what a client says is held against what was written down. */
enum Comparison: string
{
    case Is = 'is';
    case Starts = 'starts';
    case Contains = 'contains';
    case In = 'in';

    public function label(): string
    {
        return match ($this) {
            self::Is => 'is',
            self::Starts => 'starts with',
            self::Contains => 'contains',
            self::In => 'is one of',
        };
    }

    public function holds(string $seen, string $meant): bool
    {
        return match ($this) {
            self::Is, self::In => $seen === $meant,
            self::Starts => str_starts_with($seen, $meant),
            self::Contains => str_contains($seen, $meant),
        };
    }
}
