<?php

declare(strict_types=1);

namespace App\Console;

use App\Api\Collections;
use App\Api\Known;
use App\Api\Problem;
use App\Models\Model;
use App\Models\Person;

/** The lists of programs on the console: with the same filters, fields and words. */
final class Get extends Computes
{
    use SpeaksAs;

    protected $signature = 'get {list : prefixes, addresses, zones, records, scopes, leases …} {filters?* : as within=10.36.0.0/16, or '
        .'within:10.36.0.0/16} {--one= : one object, by its id or what is known of it} {--fields= : those alone, apart by commas} '
        .'{--limit=100 : 0 for all} {--as= : in the reach of this sign-in} {--json : an object a line}';

    protected $description = 'Lists what there is, as programs see it';

    public function handle(): int
    {
        $list = (string) $this->argument('list');
        $person = $this->speaker();
        if ($person === false) {
            return 2;
        }
        if (! isset(Collections::OF[$list])) {
            return $this->unusable("$list: there is no such list; there are ".implode(', ', array_keys(Collections::OF)));
        }
        $limit = (string) $this->option('limit');
        if (! ctype_digit($limit)) {
            return $this->unusable("--limit=$limit: a number is meant");
        }
        $fields = array_values(array_filter(explode(',', (string) $this->option('fields'))));
        try {
            return $this->option('one') === null
                ? $this->all($list, $person, (int) $limit, $fields)
                : $this->one($list, (string) $this->option('one'), $person, $fields);
        } catch (Problem $e) {
            return $this->unusable($e->words());
        }
    }

    /** @param  list<string>  $fields */
    private function one(string $list, string $known, ?Person $person, array $fields): int
    {
        $row = Known::row($list, $known, self::reachOf($person));
        if ($row === null) {
            $this->err("$known: nothing is here, or it is not available");

            return 1;
        }
        $this->told($list, $row, $fields);

        return 0;
    }

    /** @param  list<string>  $fields */
    private function all(string $list, ?Person $person, int $limit, array $fields): int
    {
        $asked = [];
        foreach ((array) $this->argument('filters') as $text) {
            if (! is_string($text) || preg_match('/\A([a-z_]+)[=:](.*)\z/s', $text, $m) !== 1) {
                return $this->unusable((is_string($text) ? $text : '?').': a filter is written as name=value');
            }
            $asked[$m[1]] = $m[2];
        }
        $query = Collections::query($list, self::reachOf($person));
        if ($query === null) {
            return $this->unusable("$list: not available to you");
        }
        Collections::filter($list, $query, $asked);
        $key = $query->getModel()->getQualifiedKeyName();
        $rows = $query->with(Collections::with($list))->reorder($key)->lazyById(500, $key, $query->getModel()->getKeyName());
        $count = 0;
        foreach ($limit === 0 ? $rows : $rows->take($limit + 1) as $row) {
            if ($limit !== 0 && $count === $limit) {
                $this->err("there are more than $limit; --limit=0 lists all");
                break;
            }
            $count++;
            $this->told($list, $row, $fields);
        }

        return $count === 0 ? 1 : 0;
    }

    /** @param  list<string>  $fields */
    private function told(string $list, Model $row, array $fields): void
    {
        $object = Collections::object($list, $row, $fields);
        if ($this->option('json')) {
            $this->json($object);

            return;
        }
        $text = static fn (mixed $v): string => match (true) {
            is_bool($v) => $v ? 'yes' : 'no',
            is_scalar($v) => (string) $v,
            default => $v === null ? '' : (string) json_encode($v, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE),
        };
        $this->say($fields === [] ? "{$text($row->getKey())}  {$row->line()}" : implode("\t", array_map(
            static fn (string $f): string => $text($object[$f] ?? null), $fields,
        )));
    }
}
