<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A text that is kept: made again when what it reads has changed.
 *
 * @property string $template_id
 * @property string $object_id
 * @property string $title  of the object
 * @property string $text
 * @property ?string $before  the one before it
 * @property string $digest
 * @property CarbonImmutable $made_at  since when it is as it is
 * @property CarbonImmutable $looked_at
 * @property string $trouble  why it could not be made again
 * @property-read Template $template
 */
final class MadeText extends Model
{
    protected $table = 'made_texts';

    protected $casts = ['made_at' => 'immutable_datetime', 'looked_at' => 'immutable_datetime'];

    /** @return BelongsTo<Template, $this> */
    public function template(): BelongsTo
    {
        return $this->belongsTo(Template::class);
    }

    /** A text may be long: history and hooks tell that it changed, and its page what. */
    public static function quiet(): array
    {
        return [...parent::quiet(), 'text', 'before'];
    }

    public static function noun(): string
    {
        return 'text';
    }

    public function line(): string
    {
        return "$this->title: {$this->template->name}";
    }
}
