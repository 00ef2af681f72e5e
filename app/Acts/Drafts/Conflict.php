<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Written;
use App\Queries\History;
use App\Queries\Reach;

/**
 * A row that an edit of a draft writes, and that somebody else wrote since the edit was made: as it was, theirs, and this draft's.
 *
 * @phpstan-type Way array{column: string, was: mixed, theirs: mixed, mine: mixed}
 */
final readonly class Conflict
{
    /**
     * @param  list<string>  $who
     * @param  list<Way>  $ways  columns in which at least one of the three differs
     * @param  list<string>  $parts  rows that belong to it, written meanwhile
     */
    private function __construct(
        public string $object,
        public string $noun,
        public string $line,
        /** null: it is gone */
        public ?int $version,
        /** it was not touched when the edit was made */
        public bool $new,
        public array $who,
        public ?\DateTimeImmutable $at,
        public array $ways,
        public array $parts,
    ) {
    }

    /**
     * @param  int  $version  the one that was seen; 0: the edit did not touch the row then
     * @param  list<Written>  $writes  what the edit would write to the row now
     */
    public static function of(Reach $reach, string $object, int $version, array $writes): ?self
    {
        [$noun, $id] = explode(':', $object, 2) + [1 => ''];
        $row = $reach->ofNoun($noun)?->find($id);
        if ($row !== null && $row->version === $version) {
            return null;
        }
        if ($row === null && ! $reach->isWhole()) {
            return new self($object, $noun, "a $noun", null, false, [], null, [], []);
        }
        $since = History::since($noun, $id, $version);
        $columns = $version === 0 ? [] : array_map(
            static fn (array $c): array => ['was' => $c['before'], 'theirs' => $c['after'], 'mine' => $c['after']],
            $since['columns'],
        );
        foreach ($writes as $write) {
            foreach ($write->op === 'turn' ? $write->after ?? [] : [] as $column => $value) {
                $now = $write->before[$column] ?? null;
                $columns[$column] = ['mine' => $value] + ($columns[$column] ?? ['was' => $now, 'theirs' => $now]);
            }
        }
        $ways = [];
        foreach ($columns as $column => $way) {
            $ways[] = ['column' => (string) $column] + $way;
        }

        return new self(
            $object, $noun, $row?->line() ?? $since['line'] ?? $noun, $row?->version, $version === 0,
            $reach->isWhole() ? $since['who'] : [], $since['at'], $ways,
            $since['parts'],
        );
    }

    /** Do both want the same column otherwise? Where they do not, mine on top of theirs takes nothing away. */
    public function clashes(): bool
    {
        return array_filter(
            $this->ways,
            static fn (array $w): bool => $w['was'] !== $w['theirs'] && $w['mine'] !== $w['theirs'],
        ) !== [];
    }
}
