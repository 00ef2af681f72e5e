<?php

declare(strict_types=1);

namespace App\Api\Graph;

use App\Api\Collections;
use App\Models\Model;
use App\Queries\Reach;
use GraphQL\Deferred;
use GraphQL\Error\UserError;

/**
 * Reads what a question asks for in sets: one query for each relation of a level, however many objects that level has. Reach is applied to
 * every set, and what is read is counted.
 *
 * @phpstan-type Page array{items: list<Model>, next: ?string}
 */
final class GraphLoader
{
    /** Objects that one question may read, and seconds that it may take. */
    public const OBJECTS = 20_000;

    public const SECONDS = 10.0;

    private int $read = 0;

    private readonly float $began;

    /** @var array<string, array<string, true>> collection → ids that are asked for */
    private array $wanted = [];

    /** @var array<string, array<string, ?Model>> collection → id → what was found */
    private array $found = [];

    /** @var array<string, array<string, true>> relation → parents that are asked for */
    private array $parents = [];

    /** @var array<string, array<string, Page>> relation → parent → what was found */
    private array $pages = [];

    public function __construct(private readonly Reach $reach)
    {
        $this->began = microtime(true);
    }

    /** An object that another names; null where there is none, or none to be seen. */
    public function one(string $collection, ?string $id): Deferred
    {
        if ($id !== null) {
            $this->wanted[$collection][$id] = true;
        }

        return new Deferred(function () use ($collection, $id): ?Model {
            if ($id !== null && ! array_key_exists($id, $this->found[$collection] ?? [])) {
                $this->readWanted($collection);
            }

            return $id === null ? null : $this->found[$collection][$id] ?? null;
        });
    }

    /**
     * Those that name an object.
     *
     * @param  array<string, string>  $filters
     */
    public function many(string $collection, string $column, string $parent, int $first, ?string $after, array $filters): Deferred
    {
        $relation = json_encode([$collection, $column, $first, $after, $filters], JSON_THROW_ON_ERROR);
        $this->parents[$relation][$parent] = true;

        return new Deferred(function () use ($relation, $collection, $column, $parent, $first, $after, $filters): array {
            if (! isset($this->pages[$relation][$parent])) {
                $this->readParents($relation, $collection, $column, $first, $after, $filters);
            }

            return $this->pages[$relation][$parent] ?? ['items' => [], 'next' => null];
        });
    }

    /**
     * @param  array<string, string>  $filters
     * @return Page
     */
    public function list(string $collection, int $first, ?string $after, array $filters): array
    {
        $this->inTime();
        $query = Collections::query($collection, $this->reach) ?? throw new UserError("There is no list of $collection.");
        Collections::filter($collection, $query, $filters);
        $key = $query->getModel()->getQualifiedKeyName();
        $rows = $query->with(Collections::with($collection))->reorder($key)
            ->when($after !== null, static fn ($q) => $q->where($key, '>', $after))->limit($first + 1)->get();

        return $this->page($rows->all(), $first);
    }

    private function readWanted(string $collection): void
    {
        $ids = array_map(strval(...), array_keys(array_diff_key($this->wanted[$collection] ?? [], $this->found[$collection] ?? [])));
        $this->inTime();
        foreach (array_chunk($ids, 1000) as $part) {
            $query = Collections::query($collection, $this->reach) ?? throw new UserError("There is no list of $collection.");
            $rows = $query->with(Collections::with($collection))
                ->whereIn($query->getModel()->getQualifiedKeyName(), $part)->get()->keyBy('id');
            foreach ($part as $id) {
                $row = $rows[$id] ?? null;
                $this->found[$collection][$id] = $row instanceof Model ? $row : null;
            }
            $this->count(count($part));
        }
    }

    /** @param  array<string, string>  $filters */
    private function readParents(string $relation, string $collection, string $column, int $first, ?string $after, array $filters): void
    {
        $ids = array_map(strval(...), array_keys(array_diff_key($this->parents[$relation], $this->pages[$relation] ?? [])));
        foreach (array_chunk($ids, 500) as $part) {
            $this->inTime();
            $query = Collections::query($collection, $this->reach) ?? throw new UserError("There is no list of $collection.");
            Collections::filter($collection, $query, $filters);
            $model = $query->getModel();
            [$table, $key] = [$model->getTable(), $model->getQualifiedKeyName()];
            // Numbered within each parent, so that a level is one query whatever its parents have.
            $query->reorder()->whereIn("$table.$column", $part)->when($after !== null, static fn ($q) => $q->where($key, '>', $after))
                ->select("$table.*")->selectRaw("row_number() over (partition by $table.$column order by $key) as numbered");
            $rows = $model->newQuery()->withoutGlobalScopes()->fromSub($query->toBase(), $table)->where('numbered', '<=', $first + 1)
                ->orderBy($key)->with(Collections::with($collection))->get()->groupBy($column);
            foreach ($part as $id) {
                $found = $rows[$id] ?? null;
                $this->pages[$relation][$id] = $this->page($found === null ? [] : array_values($found->all()), $first);
            }
        }
    }

    /**
     * @param  array<int, Model>  $rows
     * @return Page
     */
    private function page(array $rows, int $first): array
    {
        $items = array_values(array_slice($rows, 0, $first));
        foreach ($items as $row) {
            $row->offsetUnset('numbered');
            $row->syncOriginal();
        }
        $this->count(count($items));

        return ['items' => $items, 'next' => count($rows) > $first ? (string) $items[$first - 1]->getKey() : null];
    }

    private function count(int $more): void
    {
        $this->read += $more;
        if ($this->read > self::OBJECTS) {
            throw new UserError('This asks for more than '.number_format(self::OBJECTS).' objects. Ask for fewer with "first" or a filter, '
                .'or go on from "next".');
        }
    }

    public static function tooLong(): string
    {
        return 'This takes longer than '.(int) self::SECONDS.' seconds. Ask for fewer with "first" or a filter.';
    }

    private function inTime(): void
    {
        if (microtime(true) - $this->began > self::SECONDS) {
            throw new UserError(self::tooLong());
        }
    }
}
