<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Watch\NoteTrimmed;
use App\Imports\ImportFile;
use App\Models\Kept;
use App\Models\Retention;
use App\Queries\KeptRows;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/**
 * Takes away what is older than it is kept, a thousand rows at once, so that nobody waits for it. What went is counted with it, so that a
 * run that was cut off is told in full by the next one.
 */
final class DataTrim extends Command
{
    private const AT_ONCE = 1000;

    protected $signature = 'data:trim {--dry : says what would go}';

    protected $description = 'Takes away what is over and older than it is kept';

    public function handle(Acts $acts): int
    {
        foreach (Kept::cases() as $kind) {
            $days = Retention::for($kind)->days;
            if ($days === null) {
                $this->line("{$kind->title()}: kept for ever");

                continue;
            }
            if ($this->option('dry')) {
                $this->line("{$kind->title()}: ".number_format(KeptRows::older($kind, $days))." older than $days days");

                continue;
            }
            $gone = 0;
            $kind === Kept::Imports ? self::emptied($days) : null;
            do {
                $some = self::someOf($kind, $days);
                $gone += $some;
            } while ($some === self::AT_ONCE);
            $acts->commit(null, [new NoteTrimmed($kind)]);
            $this->line("{$kind->title()}: ".number_format($gone)." older than $days days went");
        }

        while (! $this->option('dry') && DB::table('attempts')->where('at', '<', now()->subDay())->limit(self::AT_ONCE)->delete() > 0) {
            continue;
        }

        return 0;
    }

    /** What imports staged goes before them, some at once, and the files that were uploaded for them. */
    private static function emptied(int $days): void
    {
        $over = KeptRows::of(Kept::Imports, $days);
        do {
            $some = DB::table('import_rows')->whereIn('import_id', (clone $over)->select('id'))->limit(self::AT_ONCE)->delete();
        } while ($some === self::AT_ONCE);
        ImportFile::trim((clone $over)->select('id'));
    }

    /** @return int rows that went */
    private static function someOf(Kept $kind, int $days): int
    {
        return DB::transaction(static function () use ($kind, $days): int {
            $some = KeptRows::of($kind, $days)->orderBy($kind->place()[1])->limit(self::AT_ONCE)->delete();
            if ($some > 0) {
                DB::table('retention')->insertOrIgnore(['id' => (string) Str::ulid(), 'kind' => $kind->value, 'days' => $days]);
                DB::table('retention')->where('kind', $kind->value)->increment('going', $some);
            }

            return $some;
        });
    }
}
