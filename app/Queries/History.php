<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Person;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** What was written, by whom and when. */
final class History
{
    /** How far before its end rows of a draft are looked for. */
    private const OF_DRAFT = 250_000;

    /**
     * The newest first: of everything, of one act, or of one object and of the rows that belong to it.
     *
     * @return Collection<int, \stdClass>
     */
    public static function rows(?string $object, ?string $act, ?int $before, int $most): Collection
    {
        $page = static fn (): Builder => DB::table('history')->when($act, fn ($q) => $q->where('act_id', $act))
            ->when($before, fn ($q) => $q->where('id', '<', $before))
            ->orderByDesc('id')->limit($most);
        if ($object === null) {
            return $page()->get();
        }

        // Each half by its own index.
        return $page()->where('object_id', $object)->get()->concat($page()->where('within_id', $object)->get())
            ->unique('id')->sortByDesc('id')->take($most)->values();
    }

    /** @return list<string> the acts that were committed with a draft, as one, in order */
    public static function actsOfDraft(string $draft): array
    {
        $end = DB::table('history')->where('object_id', $draft)->where('object_type', 'draft')->where('action', 'end-draft')
            ->orderByDesc('id')->first();
        $acts = $end === null ? [] : DB::table('history')->where('at', $end->at)->where('person_id', $end->person_id)
            ->where('id', '<=', $end->id)->where('id', '>', $end->id - self::OF_DRAFT)->where('act_id', '!=', $end->act_id)
            ->groupBy('act_id')->orderByRaw('MIN(id)')->pluck('act_id')->all();

        return array_values(array_map(strval(...), $acts));
    }

    /**
     * What became of a row after a version: for each column what it was and what it is, and who wrote it.
     *
     * @return array{line: ?string, who: list<string>, at: ?\DateTimeImmutable, columns: array<string, array{before: mixed, after: mixed}>,
     *     parts: list<string>} parts: rows that belong to it
     */
    public static function since(string $noun, string $id, int $version): array
    {
        $rows = DB::table('history')->where('object_type', $noun)->where('object_id', $id)
            ->where('version', '>', $version)->orderBy('id')->limit(200)->get();
        $columns = [];
        foreach ($rows as $row) {
            $was = (array) json_decode((string) $row->before, true);
            foreach ((array) json_decode((string) $row->after, true) as $column => $value) {
                $columns[(string) $column] = [
                    'before' => ($columns[$column] ?? ['before' => $was[$column] ?? null])['before'],
                    'after' => $value,
                ];
            }
        }
        $parts = DB::table('history')->where('within_id', $id)->where('within_version', '>', $version)->orderBy('id')->limit(50)->get();
        $people = Person::query()->whereIn('id', $rows->concat($parts)->pluck('person_id')->filter()->unique())
            ->orderBy('name')->pluck('name')->all();
        $last = $rows->last() ?? $parts->last();

        return [
            'line' => $rows->last()?->title,
            'who' => array_values($people),
            'at' => $last === null ? null : new \DateTimeImmutable($last->at),
            'parts' => array_values($parts->map(static fn (\stdClass $r): string => "$r->object_type $r->title ".match (true) {
                $r->before === null => 'new', $r->after === null => 'removed', default => 'changed'
            })->all()),
            'columns' => array_filter($columns, static fn (array $c): bool => $c['before'] !== $c['after']),
        ];
    }
}
