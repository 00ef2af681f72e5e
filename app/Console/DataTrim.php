<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Watch\NoteTrimmed;
use App\Models\Kept;
use App\Models\Retention;
use App\Queries\KeptRows;
use Illuminate\Console\Command;

/** Takes away what is older than it is kept, a thousand rows at once, so that nobody waits for it; what was cut off goes on next time. */
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
            $column = $kind->place()[1];
            $gone = 0;
            do {
                $some = KeptRows::of($kind, $days)->orderBy($column)->limit(self::AT_ONCE)->delete();
                $gone += $some;
            } while ($some === self::AT_ONCE);
            $gone === 0 || $acts->commit(null, [new NoteTrimmed($kind, $gone)]);
            $this->line("{$kind->title()}: ".number_format($gone)." older than $days days went");
        }

        return 0;
    }
}
