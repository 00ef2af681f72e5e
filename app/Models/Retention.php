<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;

/**
 * How long one kind of what is over is kept.
 *
 * @property Kept $kind
 * @property ?int $days  null: for ever
 * @property ?CarbonImmutable $trimmed_at
 * @property int $trimmed_rows  that went then
 * @property int $going  that went since, and are not told in the history yet
 */
final class Retention extends Model
{
    protected $table = 'retention';

    protected $casts = ['kind' => Kept::class, 'trimmed_at' => 'immutable_datetime'];

    public static function noun(): string
    {
        return 'retention';
    }

    public static function quiet(): array
    {
        return [...parent::quiet(), 'going'];
    }

    public function line(): string
    {
        return $this->kind->title().($this->days === null ? ', for ever' : ", $this->days days");
    }

    /** The rule of a kind, kept or as it comes. */
    public static function for(Kept $kind): self
    {
        return self::query()->where('kind', $kind)->first() ?? self::usual($kind);
    }

    /** As it comes, while nobody said otherwise. */
    public static function usual(Kept $kind): self
    {
        return new self(['kind' => $kind, 'days' => $kind->usual()]);
    }
}
