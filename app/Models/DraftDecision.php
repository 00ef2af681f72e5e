<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * What somebody else said of a draft. It stands for the draft as it was read; a change of the draft voids it.
 *
 * @property string $draft_id
 * @property string $person_id
 * @property DraftVerdict $verdict
 * @property string $reason
 * @property string $digest
 * @property CarbonImmutable $at
 * @property ?CarbonImmutable $void_at
 * @property-read Draft $draft
 * @property-read Person $person
 */
final class DraftDecision extends Model
{
    protected $table = 'draft_decisions';

    /** @var array<string, string> */
    protected $casts = ['verdict' => DraftVerdict::class, 'at' => 'immutable_datetime', 'void_at' => 'immutable_datetime'];

    public function versioned(): bool
    {
        return false;
    }

    /** @return BelongsTo<Draft, $this> */
    public function draft(): BelongsTo
    {
        return $this->belongsTo(Draft::class);
    }

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    public static function noun(): string
    {
        return 'decision';
    }

    public static function withinColumn(): string
    {
        return 'draft_id';
    }

    public function line(): string
    {
        return "{$this->verdict->value}: {$this->draft->line()}";
    }
}
