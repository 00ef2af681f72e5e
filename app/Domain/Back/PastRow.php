<?php

declare(strict_types=1);

namespace App\Domain\Back;

use Illuminate\Support\Facades\DB;

/** One row of history, as it was written and as it was before. */
final readonly class PastRow
{
    /**
     * @param  array<string, mixed>|null  $before
     * @param  array<string, mixed>|null  $after
     */
    private function __construct(
        public int $number,
        public string $noun,
        public string $id,
        public string $title,
        public ?array $before,
        public ?array $after,
    ) {
    }

    public static function of(\stdClass $row): self
    {
        $read = static fn (?string $json): ?array => $json === null ? null : (array) json_decode($json, true, 64, JSON_THROW_ON_ERROR);

        return new self(
            (int) $row->id, (string) $row->object_type, (string) $row->object_id, (string) $row->title, $read($row->before),
            $read($row->after),
        );
    }

    public function object(): string
    {
        return "$this->noun:$this->id";
    }

    public function called(): string
    {
        return "$this->noun $this->title";
    }

    /** A column as text: of what was before, or of what was written. */
    public function was(string $column): ?string
    {
        return self::text($this->before[$column] ?? null);
    }

    /** Of the object when it is made again: whoever saw an earlier version of it has not seen this one. */
    public function nextVersion(): int
    {
        return 1 + (int) DB::table('history')->where('object_type', $this->noun)->where('object_id', $this->id)->max('version');
    }

    /** The same, whether it came from the database or from a form. */
    public static function text(mixed $value): ?string
    {
        return match (true) {
            $value === null => null,
            is_bool($value) => (string) (int) $value,
            // A day is kept without its time, and written with one.
            is_string($value) && preg_match('/\A(\d{4}-\d\d-\d\d) 00:00:00\z/', $value, $m) === 1 => $m[1],
            is_scalar($value) => (string) $value,
            default => (string) json_encode($value, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
        };
    }
}
