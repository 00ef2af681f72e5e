<?php

declare(strict_types=1);

namespace App\Models;

/** Which of two systems a value is written in first. */
enum Leads: string
{
    case Nobody = 'nobody';
    case Here = 'here';
    case There = 'there';

    public function words(string $there): string
    {
        return match ($this) {
            self::Nobody => 'nobody leads: both are compared, and people decide',
            self::Here => "the plan leads: $there follows it",
            self::There => "$there leads: the plan follows it",
        };
    }
}
