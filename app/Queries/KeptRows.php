<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\ImportState;
use App\Models\Kept;
use App\Models\MailState;
use App\Models\Retention;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** What is kept of what is over: how much of it there is, since when, and what goes next. */
final class KeptRows
{
    /** As far as what goes is counted. */
    public const COUNTED = 100_000;

    /**
     * Of each kind its rule and its size; sizes are those of the whole table, as the database estimates them.
     *
     * @param  array<string, array{int, int}>  $sizes  as {@see self::sizes()} tells them
     * @return list<array{kind: Kept, rule: Retention, rows: int, bytes: int, oldest: ?string, goes: int}>
     */
    public static function all(array $sizes): array
    {
        $rules = Retention::query()->get()->keyBy(static fn (Retention $r): string => $r->kind->value);

        return array_map(static function (Kept $kind) use ($sizes, $rules): array {
            [$table, $column] = $kind->place();
            $rule = $rules[$kind->value] ?? Retention::usual($kind);
            $oldest = DB::table($table)->whereNotNull($column)->min($column);

            return [
                'kind' => $kind, 'rule' => $rule, 'rows' => $sizes[$table][0] ?? 0, 'bytes' => $sizes[$table][1] ?? 0,
                'oldest' => is_string($oldest) ? $oldest : null, 'goes' => $rule->days === null ? 0 : self::older($kind, $rule->days),
            ];
        }, Kept::cases());
    }

    /** @return array<string, array{int, int}> table → rows and bytes with indexes, about: of what is kept, of history and of figures */
    public static function sizes(): array
    {
        $tables = ['history', 'samples', ...array_map(static fn (Kept $k): string => $k->place()[0], Kept::cases())];
        $rows = DB::select(
            'SELECT table_name AS name, table_rows AS n, data_length + index_length AS bytes FROM information_schema.tables '
                .'WHERE table_schema = DATABASE() AND table_name IN ('.implode(', ', array_fill(0, count($tables), '?')).')',
            $tables,
        );

        return array_column(array_map(static fn (\stdClass $r): array => [(string) $r->name, [(int) $r->n, (int) $r->bytes]], $rows), 1, 0);
    }

    /** @return int rows that are older than so many days; counted as far as {@see self::COUNTED} and one more */
    public static function older(Kept $kind, int $days): int
    {
        return DB::query()->fromSub(self::of($kind, $days)->selectRaw('1')->limit(self::COUNTED + 1), 'old')->count();
    }

    /** Rows that are over for longer than so many days. */
    public static function of(Kept $kind, int $days): Builder
    {
        [$table, $column] = $kind->place();
        $until = now()->subDays($days);

        return DB::table($table)->where($column, '<', $column === 'day' ? $until->format('Y-m-d') : $until)
            ->when($kind === Kept::Imports, static fn (Builder $q) => $q->whereIn('state', ImportState::ENDED))
            ->when($kind === Kept::Mails, static fn (Builder $q) => $q->where('state', '!=', MailState::Waiting));
    }
}
