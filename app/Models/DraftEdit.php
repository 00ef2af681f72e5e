<?php

declare(strict_types=1);

namespace App\Models;

/**
 * @property string $draft_id
 * @property int $position
 * @property string $action
 * @property array<string, mixed> $input
 * @property array<string, int> $expects
 * @property list<string> $touches
 * @property string $title
 */
final class DraftEdit extends Model
{
    protected $table = 'draft_edits';

    protected $casts = ['input' => 'array', 'expects' => 'array', 'touches' => 'array'];

    public static function noun(): string
    {
        return 'edit';
    }

    public function line(): string
    {
        return $this->title;
    }
}
