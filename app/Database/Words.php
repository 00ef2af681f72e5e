<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\QueryException;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * The words inside names, descriptions and owners, kept beside the rows in the same transaction: what begins with a word is found by an
 * index, wherever in the text the word stands. Of the name of a host or a record only its first label counts: the rest is found as a zone,
 * and the names of reverse zones are addresses.
 */
final class Words
{
    /**
     * Noun of the history → its number, its table, the columns whose words are kept.
     *
     * @var array<string, array{int, string, list<string>}>
     */
    public const NOUNS = [
        'address' => [1, 'addresses', ['name', 'description', 'owner']],
        'prefix' => [2, 'prefixes', ['name', 'description', 'origin', 'origin_handle']],
        'reservation' => [3, 'reservations', ['name']],
        'record' => [4, 'records', ['owner']],
    ];

    /** Words of one row, and letters of one word. */
    private const MOST = 24;

    private const LONG = 40;

    private const PAGE = 2000;

    /** Seconds after which a search for words that are everywhere ends. */
    private const PATIENCE = 0.3;

    /** @return list<string> in lower case, each once */
    public static function split(string $text): array
    {
        preg_match_all('/[\p{L}\p{N}_]+/u', mb_strtolower($text), $found);
        $words = array_map(static fn (string $w): string => mb_substr($w, 0, self::LONG), $found[0]);

        return array_slice(array_values(array_unique($words, SORT_STRING)), 0, self::MOST);
    }

    /**
     * @param  array<string, mixed>  $row  its columns
     * @return list<string>
     */
    private static function ofRow(string $noun, array $row): array
    {
        $text = '';
        foreach (self::NOUNS[$noun][2] as $column) {
            $value = is_string($row[$column] ?? null) ? $row[$column] : '';
            $text .= ' '.match (true) {
                $column === 'owner' && $noun === 'record' => str_ends_with($value, '.arpa.') ? '' : explode('.', $value, 2)[0],
                $column === 'name' && $noun === 'address' => explode('.', $value, 2)[0],
                default => $value,
            };
        }

        return self::split($text);
    }

    /**
     * Do these columns change what is kept?
     *
     * @param  array<string, mixed>  $columns
     */
    public static function touches(string $noun, array $columns): bool
    {
        return isset(self::NOUNS[$noun]) && array_intersect_key($columns, array_flip(self::NOUNS[$noun][2])) !== [];
    }

    /** @param  array<string, array<string, mixed>>  $rows  id → columns of rows that are new */
    public static function add(string $noun, array $rows): void
    {
        $lines = [];
        foreach ($rows as $id => $row) {
            foreach (self::ofRow($noun, $row) as $word) {
                $lines[] = ['word' => $word, 'noun' => self::NOUNS[$noun][0], 'row_id' => (string) $id];
            }
        }
        $lines === [] || Bulk::insert('words', $lines);
    }

    /** @param  list<string>  $ids  of rows that were changed or are gone */
    public static function renew(string $noun, array $ids): void
    {
        foreach (array_chunk($ids, self::PAGE) as $some) {
            DB::table('words')->whereIn('row_id', $some)->where('noun', self::NOUNS[$noun][0])->delete();
            self::add($noun, self::rows($noun, $some));
        }
    }

    /** All rows of a noun of which nothing is kept yet. */
    public static function fill(string $noun): void
    {
        DB::table(self::NOUNS[$noun][1])->select(['id', ...self::NOUNS[$noun][2]])
            ->chunkById(self::PAGE, static fn (Collection $rows) => self::add($noun, self::byId($rows)));
    }

    /**
     * @param  list<string>  $ids
     * @return array<string, array<string, mixed>>
     */
    private static function rows(string $noun, array $ids): array
    {
        return self::byId(DB::table(self::NOUNS[$noun][1])->whereIn('id', $ids)->get(['id', ...self::NOUNS[$noun][2]]));
    }

    /**
     * @param  Collection<int, \stdClass>  $rows
     * @return array<string, array<string, mixed>>
     */
    private static function byId(Collection $rows): array
    {
        return $rows->keyBy('id')->map(static fn (object $r): array => (array) $r)->all();
    }

    /**
     * Rows in which each of these words begins a word.
     *
     * @param  non-empty-list<string>  $words  as {@see self::split()} gives them
     * @param  ?Builder<covariant Model>  $within  selects the ids that somebody may see; null: all
     * @return ?list<string> their ids, in no order; null where that would take too long: the words are everywhere
     */
    public static function rowsWith(string $noun, array $words, int $most, ?Builder $within = null): ?array
    {
        // The longest is the rarest, most likely.
        usort($words, static fn (string $a, string $b): int => mb_strlen($b) <=> mb_strlen($a));
        $begins = static fn (string $word): string => addcslashes($word, '%_\\').'%';
        $query = DB::table('words as w0')->where('w0.noun', self::NOUNS[$noun][0])->where('w0.word', 'like', $begins(array_shift($words)));
        foreach ($words as $word) {
            $query->whereExists(static fn ($q) => $q->from('words as w')->whereColumn('w.row_id', 'w0.row_id')
                ->where('w.word', 'like', $begins($word)));
        }
        $within === null || $query->whereIn('w0.row_id', $within->toBase());
        try {
            return Patience::within(
                self::PATIENCE,
                static fn (): array => array_values(array_unique($query->limit($most)->pluck('w0.row_id')->map(strval(...))->all())),
            );
        } catch (QueryException $e) {
            return Patience::isOver($e) ? null : throw $e;
        }
    }
}
