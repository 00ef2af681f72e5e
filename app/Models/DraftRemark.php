<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Said of a draft, or of one edit of it.
 *
 * @property string $draft_id
 * @property ?string $edit_id
 * @property string $person_id
 * @property string $text
 * @property CarbonImmutable $at
 * @property-read Person $person
 */
final class DraftRemark extends Model
{
    protected $table = 'draft_remarks';

    /** @var array<string, string> */
    protected $casts = ['at' => 'immutable_datetime'];

    public function versioned(): bool
    {
        return false;
    }

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    public static function noun(): string
    {
        return 'remark';
    }

    public static function withinColumn(): string
    {
        return 'draft_id';
    }

    public function line(): string
    {
        return mb_strimwidth($this->text, 0, 80, '…');
    }
}
