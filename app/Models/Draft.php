<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * Edits kept apart from the truth.
 *
 * @property string $person_id
 * @property DraftState $state
 * @property string $title
 * @property string $why
 * @property ?CarbonImmutable $submitted_at
 * @property CarbonImmutable $started_at
 * @property ?CarbonImmutable $ended_at
 * @property ?CarbonImmutable $due_at  when it is committed by itself
 * @property ?string $due_digest  of what would be written then, as it was shown
 * @property string $due_reason  why in spite of warnings
 * @property string $due_problem  why it was not committed when its time came
 * @property-read Collection<int, DraftEdit> $edits
 * @property-read Collection<int, DraftHand> $hands
 * @property-read Collection<int, DraftDecision> $decisions
 * @property-read Collection<int, DraftRemark> $remarks
 * @property-read Person $person
 */
final class Draft extends Model
{
    protected $table = 'drafts';

    /** @var array<string, string> */
    protected $attributes = ['title' => '', 'why' => '', 'due_reason' => '', 'due_problem' => ''];

    /** @var array<string, string> */
    protected $casts = [
        'state' => DraftState::class, 'started_at' => 'immutable_datetime', 'ended_at' => 'immutable_datetime',
        'submitted_at' => 'immutable_datetime', 'due_at' => 'immutable_datetime',
    ];

    /** @return HasMany<DraftEdit, $this> */
    public function edits(): HasMany
    {
        return $this->hasMany(DraftEdit::class)->orderBy('position');
    }

    /** @return HasMany<DraftHand, $this> */
    public function hands(): HasMany
    {
        return $this->hasMany(DraftHand::class)->orderBy('id');
    }

    /** @return HasMany<DraftDecision, $this> */
    public function decisions(): HasMany
    {
        return $this->hasMany(DraftDecision::class)->orderBy('at');
    }

    /** @return HasMany<DraftRemark, $this> */
    public function remarks(): HasMany
    {
        return $this->hasMany(DraftRemark::class)->orderBy('at');
    }

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    /** Did somebody write it, in whole or in part? Such a one agrees to it no more than its author does. */
    public function isBy(string $person): bool
    {
        return $this->person_id === $person || $this->edits->contains('person_id', $person);
    }

    /** May it be changed, and does the person work on it? */
    public function isInHandsOf(Person $person): bool
    {
        return $this->hands->contains('person_id', $person->id);
    }

    /** What an agreement signs: every edit with what it relies on, in order. */
    public function digest(): string
    {
        $edits = $this->edits->map(fn (DraftEdit $e): array => [$e->id, $e->action, $e->input, $e->expects])->all();

        return hash('sha256', json_encode([$this->id, $this->title, $edits], JSON_THROW_ON_ERROR));
    }

    /** @return Collection<int, DraftDecision> what counts: of the draft as it is now */
    public function standing(): Collection
    {
        $digest = $this->digest();

        return $this->decisions->filter(fn (DraftDecision $d): bool => $d->void_at === null && hash_equals($digest, $d->digest))->values();
    }

    public static function noun(): string
    {
        return 'draft';
    }

    public function line(): string
    {
        return $this->title !== '' ? $this->title : 'draft of '.$this->started_at->format('j M H:i');
    }
}
