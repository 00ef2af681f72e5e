<?php

declare(strict_types=1);

namespace App\Queries\Facts;

use Illuminate\Database\Query\Builder;

/** What may be asked of a fact. */
enum Test: string
{
    case Is = 'is';
    case Not = 'not';
    case Contains = 'contains';
    case Starts = 'starts';
    case Above = 'above';
    case Below = 'below';
    case Set = 'set';
    case Unset = 'unset';

    public function words(): string
    {
        return match ($this) {
            self::Is => 'is',
            self::Not => 'is not',
            self::Contains => 'contains',
            self::Starts => 'starts with',
            self::Above => 'above',
            self::Below => 'below',
            self::Set => 'is there',
            self::Unset => 'is missing',
        };
    }

    public function takesValue(): bool
    {
        return $this !== self::Set && $this !== self::Unset;
    }

    /** @param  Builder  $query  narrowed to the objects of which it is so */
    public function narrow(Builder $query, Fact $fact, string $value): void
    {
        $like = addcslashes($value, '%_\\');
        $number = (float) str_replace([',', '%', ' '], '', $value);
        match ($this) {
            self::Set => $query->whereRaw("($fact->sql) IS NOT NULL AND ($fact->sql) != ''"),
            self::Unset => $query->whereRaw("(($fact->sql) IS NULL OR ($fact->sql) = '')"),
            self::Above => $query->whereRaw("($fact->sql) > ?", [$number]),
            self::Below => $query->whereRaw("($fact->sql) < ?", [$number]),
            self::Contains => $query->whereRaw("($fact->sql) LIKE ?", ["%$like%"]),
            self::Starts => $query->whereRaw("($fact->sql) LIKE ?", ["$like%"]),
            self::Is => $query->whereRaw("($fact->sql) = ?", [$this->plain($fact, $value)]),
            self::Not => $query->whereRaw("NOT (($fact->sql) <=> ?)", [$this->plain($fact, $value)]),
        };
    }

    private function plain(Fact $fact, string $value): string
    {
        return $fact->type === FactType::Flag ? (in_array(strtolower($value), ['yes', '1', 'true'], true) ? '1' : '0') : $value;
    }
}
