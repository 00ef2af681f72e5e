<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * Edits kept apart from the truth.
 *
 * @property string $person_id
 * @property string $state
 * @property ?string $decided_by
 * @property ?string $decision_reason
 * @property CarbonImmutable $started_at
 * @property ?CarbonImmutable $ended_at
 * @property-read Collection<int, DraftEdit> $edits
 */
final class Draft extends Model
{
    protected $table = 'drafts';

    protected $casts = ['started_at' => 'immutable_datetime', 'ended_at' => 'immutable_datetime'];

    /** @return HasMany<DraftEdit, $this> */
    public function edits(): HasMany
    {
        return $this->hasMany(DraftEdit::class)->orderBy('position');
    }

    public static function noun(): string
    {
        return 'draft';
    }

    public function line(): string
    {
        return 'draft of '.$this->started_at->format('j M H:i');
    }
}
