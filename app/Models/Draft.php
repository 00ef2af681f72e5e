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
 * @property string $state
 * @property string $title
 * @property string $why
 * @property ?CarbonImmutable $submitted_at
 * @property ?string $decided_by
 * @property ?string $decision_reason
 * @property CarbonImmutable $started_at
 * @property ?CarbonImmutable $ended_at
 * @property-read Collection<int, DraftEdit> $edits
 * @property-read Collection<int, DraftDecision> $decisions
 * @property-read Collection<int, DraftRemark> $remarks
 * @property-read Person $person
 */
final class Draft extends Model
{
    public const OPEN = 'open';

    /** Read by others; not changed until it is taken back. */
    public const SUBMITTED = 'submitted';

    public const COMMITTED = 'committed';

    public const DROPPED = 'dropped';

    protected $table = 'drafts';

    /** @var array<string, string> */
    protected $attributes = ['title' => '', 'why' => ''];

    /** @var array<string, string> */
    protected $casts = ['started_at' => 'immutable_datetime', 'ended_at' => 'immutable_datetime', 'submitted_at' => 'immutable_datetime'];

    /** @return HasMany<DraftEdit, $this> */
    public function edits(): HasMany
    {
        return $this->hasMany(DraftEdit::class)->orderBy('position');
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
