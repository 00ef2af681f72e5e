<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Person;
use App\Queries\History;

/**
 * What somebody wrote between the opening of a form and its saving, beside what the form would write; "into" is the field that could take
 * theirs.
 *
 * @phpstan-type Row array{column: string, saw: mixed, theirs: mixed, mine: mixed, into: ?string}
 */
final readonly class Meanwhile
{
    public function __construct(private Acts $acts)
    {
    }

    /**
     * @param  array<string, int>  $seen  "noun:id" → the version that the form was opened with
     * @param  array<string, int>  $changed  those of them that are of another version now
     * @return list<array{object: string, version: int, line: string, who: list<string>, at: ?\DateTimeImmutable, parts: list<string>,
     *     rows: list<Row>}>
     */
    public function beside(Person $person, Act $act, array $seen, array $changed): array
    {
        // What the form would write on top of theirs, found by doing it.
        $mine = $this->acts->rehearse($person, [$act], [$changed + $seen]);
        $beside = [];
        foreach ($changed as $object => $version) {
            [$noun, $id] = explode(':', $object, 2);
            $writes = array_values(array_filter($mine->written(), static fn (Written $w): bool => $w->noun === $noun && $w->id === $id));
            $changes = History::since($noun, $id, $seen[$object] ?? 0);
            $theirs = array_map(
                static fn (array $c): array => ['saw' => $c['before'], 'theirs' => $c['after'], 'mine' => $c['after']],
                $changes['columns'],
            );
            $rows = self::mine($theirs, $writes);
            $beside[] = [
                'object' => $object, 'version' => $version, 'line' => $changes['line'] ?? ($writes[0]->line ?? $noun),
                'who' => $changes['who'], 'at' => $changes['at'],
                'parts' => $changes['parts'], 'rows' => self::offering($act::class, $rows),
            ];
        }

        return $beside;
    }

    /**
     * @param  array<string, array{saw: mixed, theirs: mixed, mine: mixed}>  $rows  by column
     * @param  list<Written>  $writes
     * @return array<string, array{saw: mixed, theirs: mixed, mine: mixed}>
     */
    private static function mine(array $rows, array $writes): array
    {
        foreach ($writes as $write) {
            foreach ($write->op === 'turn' ? $write->after ?? [] : [] as $column => $value) {
                $before = $write->before[$column] ?? null;
                $rows[$column] = ['mine' => $value] + ($rows[$column] ?? ['saw' => $before, 'theirs' => $before]);
            }
        }

        return $rows;
    }

    /**
     * @param  class-string<Act>  $act
     * @param  array<string, array{saw: mixed, theirs: mixed, mine: mixed}>  $rows
     * @return list<Row>
     */
    private static function offering(string $act, array $rows): array
    {
        $fields = Inputs::of($act);
        $offering = [];
        foreach ($rows as $column => $row) {
            $field = (string) preg_replace('/_id\z/', '', $column);
            $takes = $row['theirs'] !== $row['mine'] && is_scalar($row['theirs']) && $row['theirs'] !== '' && isset($fields[$field]);
            $offering[] = ['column' => $column, 'into' => $takes ? $field : null] + $row;
        }

        return $offering;
    }
}
