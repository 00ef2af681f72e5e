<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use HarborPost\Core\Audit\Chain;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * Seals the history behind the writers, in one place, in the order in which entries are found; and proves it. What a transaction wrote that
 * ended late is sealed late: the order of the chain is its own.
 */
final class HistoryChain
{
    /** Entries that are sealed, or proved, in one statement. */
    private const CHUNK = 2000;

    /** Seconds after which an entry is sealed: whoever writes with an earlier number has ended by then. */
    private const RIPE = 5;

    /** Numbers behind the last sealed one that are looked through for late ones. */
    private const LATE = 100_000;

    /** Minutes after which an entry that is not sealed came by another way. */
    private const OVERDUE = 30;

    /** Minutes between two heads that are written to the file apart from the database. */
    private const HEADS = 60;

    /** What of an entry is sealed. */
    private const COLUMNS = [
        'id', 'act_id', 'at', 'person_id', 'action', 'object_type', 'object_id', 'title', 'before', 'after', 'reason', 'version', 'via',
    ];

    public static function file(): string
    {
        return storage_path('app/history-heads.txt');
    }

    /** @return int entries that were sealed */
    public static function seal(): int
    {
        $sealed = 0;
        do {
            $n = DB::transaction(static function (): int {
                $last = DB::table('history_chain')->orderByDesc('seq')->lockForUpdate()->first();
                $seq = (int) ($last->seq ?? 0);
                $hash = (string) ($last->hash ?? Chain::START);
                $rows = [];
                foreach (self::unsealed() as $entry) {
                    $hash = Chain::link($hash, self::entry($entry));
                    $rows[] = ['seq' => ++$seq, 'history_id' => $entry->id, 'hash' => $hash, 'sealed_at' => now()];
                }
                foreach (array_chunk($rows, 500) as $chunk) {
                    DB::table('history_chain')->insert($chunk);
                }

                return count($rows);
            });
            $sealed += $n;
        } while ($n === self::CHUNK);
        self::noteHead();

        return $sealed;
    }

    /**
     * @return array{entries: int, faults: list<string>, waiting: int} waiting: not sealed yet, in time
     */
    public static function verify(int $most = 50): array
    {
        $faults = [];
        $hash = Chain::START;
        $expected = 0;
        $heads = self::heads();
        for ($after = 0; ; $after = $expected) {
            $links = DB::table('history_chain')->where('seq', '>', $after)->orderBy('seq')->limit(self::CHUNK)->get();
            $entries = DB::table('history')->whereIn('id', $links->pluck('history_id'))->get(self::COLUMNS)->keyBy('id');
            foreach ($links as $link) {
                for ($expected++; $expected < (int) $link->seq; $expected++) {
                    $faults[] = "link $expected is missing";
                }
                $entry = $entries[$link->history_id] ?? null;
                if ($entry === null) {
                    $faults[] = "entry $link->history_id was removed";
                } elseif (Chain::link($hash, self::entry($entry)) !== $link->hash) {
                    $faults[] = "entry $link->history_id was altered, or the link before it";
                }
                $hash = (string) $link->hash;
                if (isset($heads[$expected]) && $heads[$expected] !== $hash) {
                    $faults[] = "link $expected is another than was written to the file of heads";
                }
                unset($heads[$expected]);
                if (count($faults) >= $most) {
                    return ['entries' => $expected, 'faults' => $faults, 'waiting' => 0];
                }
            }
            if ($links->count() < self::CHUNK) {
                break;
            }
        }
        foreach (array_keys($heads) as $seq) {
            $faults[] = "link $seq, of which the file of heads tells, is gone";
        }
        $open = self::openQuery(0);
        $overdue = (clone $open)->where('history.at', '<', now()->subMinutes(self::OVERDUE))->limit($most)->pluck('history.id');
        foreach ($overdue as $id) {
            $faults[] = "entry $id stands in the history and was never sealed";
        }

        return ['entries' => $expected, 'faults' => array_slice($faults, 0, $most), 'waiting' => $open->count() - $overdue->count()];
    }

    /** @return array{entries: int, at: ?string} how much is sealed, and when the last one was */
    public static function state(): array
    {
        $last = DB::table('history_chain')->orderByDesc('seq')->first();

        return ['entries' => (int) ($last->seq ?? 0), 'at' => $last === null ? null : (string) $last->sealed_at];
    }

    /** @return Collection<int, \stdClass> */
    private static function unsealed(): Collection
    {
        $from = (int) DB::table('history_chain')->max('history_id') - self::LATE;

        return self::openQuery($from)->where('history.at', '<', now()->subSeconds(self::RIPE))->orderBy('history.id')->limit(self::CHUNK)
            ->get(array_map(static fn (string $c): string => "history.$c", self::COLUMNS));
    }

    private static function openQuery(int $from): Builder
    {
        return DB::table('history')->leftJoin('history_chain', 'history_chain.history_id', '=', 'history.id')
            ->whereNull('history_chain.seq')->where('history.id', '>', max(0, $from));
    }

    /** @return array<string, scalar|null> */
    private static function entry(\stdClass $row): array
    {
        $entry = [];
        foreach (self::COLUMNS as $column) {
            $value = $row->{$column};
            $entry[$column] = is_scalar($value) ? $value : null;
        }

        return $entry;
    }

    /** The newest link is written to a file of its own, now and then: who alters the chain has to alter that too. */
    private static function noteHead(): void
    {
        $last = DB::table('history_chain')->orderByDesc('seq')->first();
        $heads = self::heads();
        $noted = is_file(self::file()) ? (int) filemtime(self::file()) : 0;
        if ($last === null || isset($heads[(int) $last->seq]) || time() - $noted < self::HEADS * 60 && $heads !== []) {
            return;
        }
        if (! is_dir(dirname(self::file()))) {
            mkdir(dirname(self::file()), 0700, true);
        }
        file_put_contents(self::file(), "$last->seq $last->hash ".gmdate('c')."\n", FILE_APPEND | LOCK_EX);
    }

    /** @return array<int, string> link → its hash */
    private static function heads(): array
    {
        $heads = [];
        foreach (is_file(self::file()) ? (array) file(self::file(), FILE_IGNORE_NEW_LINES) : [] as $line) {
            if (preg_match('/\A(\d+) ([0-9a-f]{64}) /', (string) $line, $m) === 1) {
                $heads[(int) $m[1]] = $m[2];
            }
        }

        return $heads;
    }
}
