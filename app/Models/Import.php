<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;

/**
 * @property ?string $person_id
 * @property string $kind
 * @property string $target_id
 * @property string $file_name
 * @property string $path
 * @property int $edition  which writing of the file counts: the first is as it was uploaded
 * @property ImportState $state
 * @property int $bytes
 * @property int $bytes_read
 * @property int $lines
 * @property array<string, int> $counts
 * @property string $message
 * @property ?array<string, string> $mapping  heading of the file in lower case → column of ours; blank passes it over
 * @property string $format  what the file was recognised as
 * @property CarbonImmutable $started_at
 */
final class Import extends Model
{
    protected $table = 'imports';

    protected $casts = ['state' => ImportState::class, 'counts' => 'array', 'mapping' => 'array', 'started_at' => 'immutable_datetime'];

    public function percent(): int
    {
        return $this->bytes === 0 ? 100 : (int) floor(100 * $this->bytes_read / $this->bytes);
    }

    public function count(RowVerdict $verdict): int
    {
        return $this->counts[$verdict->value] ?? 0;
    }

    /** Rows that taking over would add, change or remove. */
    public function toWrite(): int
    {
        return array_sum(array_map($this->count(...), [RowVerdict::Add, RowVerdict::Change, RowVerdict::Cut]));
    }

    public static function noun(): string
    {
        return 'import';
    }

    public function line(): string
    {
        return "import of $this->file_name";
    }
}
