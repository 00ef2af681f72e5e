<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Somebody who works on a draft: its author, and those whom the author lets. One of the drafts of a person is the one that edits go to.
 *
 * @property string $draft_id
 * @property string $person_id
 * @property bool $current
 * @property-read Draft $draft
 * @property-read Person $person
 */
final class DraftHand extends Model
{
    protected $table = 'draft_hands';

    /** @var array<string, string> */
    protected $casts = ['current' => 'boolean'];

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
        return 'hand on a draft';
    }

    public static function withinColumn(): string
    {
        return 'draft_id';
    }

    /**
     * Which draft a person works on just now is nobody's history.
     *
     * @return list<string>
     */
    public static function quiet(): array
    {
        return [...parent::quiet(), 'current'];
    }

    public function line(): string
    {
        return "{$this->person->name} on {$this->draft->line()}";
    }
}
