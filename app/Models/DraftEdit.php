<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $draft_id
 * @property int $position
 * @property string $action
 * @property array<string, mixed> $input
 * @property array<string, int> $expects
 * @property list<string> $touches
 * @property string $title
 * @property ?string $person_id  who made it, where that is not the author of the draft
 * @property-read ?Person $person
 */
final class DraftEdit extends Model
{
    protected $table = 'draft_edits';

    protected $casts = ['input' => 'array', 'expects' => 'array', 'touches' => 'array'];

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    public static function noun(): string
    {
        return 'edit';
    }

    public function line(): string
    {
        return $this->title;
    }
}
