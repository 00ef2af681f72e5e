<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * What one machine alone does at a time: it says so every few seconds, and when it does not any more, another takes it over. Times are the
 * database's, so that clocks of machines may differ.
 */
final class Duty
{
    /** Seconds after which a duty that is not heard of is free. */
    public const LASTS = 15;

    /** By process, the moment it began, and the start of the system: an id that is used again is another, and so is another machine's. */
    private readonly string $holder;

    /** Until when it is ours for certain, by our own steady clock. */
    private float $sure = 0.0;

    public function __construct(public readonly string $name, public readonly string $machine)
    {
        $pid = (int) getmypid();
        $this->holder = "$pid-".self::beginning($pid).'-'.self::system();
    }

    /** Takes it, or keeps it; false while it is somebody else's, or the database does not answer. */
    public function take(): bool
    {
        $asked = hrtime(true) / 1e9;
        try {
            $mine = $this->written() || $this->freed() && $this->written();
        } catch (\PDOException) {
            return false;
        }
        $this->sure = $mine ? $asked + self::LASTS : 0.0;

        return $mine;
    }

    /** Whether it is still ours, whatever became of the last question; a few seconds are left to stop in. */
    public function holds(float $margin = 5.0): bool
    {
        return hrtime(true) / 1e9 < $this->sure - $margin;
    }

    public function leave(): void
    {
        rescue(fn () => $this->own()->delete(), report: false);
        $this->sure = 0.0;
    }

    /** @phpstan-impure */
    private function written(): bool
    {
        DB::affectingStatement(
            'UPDATE duties SET since = IF(machine = ? AND holder = ?, since, UTC_TIMESTAMP(3)), machine = ?, holder = ?, '
                .'until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND WHERE name = ? AND (machine = ? AND holder = ? OR until < UTC_TIMESTAMP(3))',
            [$this->machine, $this->holder, $this->machine, $this->holder, self::LASTS, $this->name, $this->machine, $this->holder],
        ) > 0 || DB::affectingStatement(
            'INSERT IGNORE INTO duties (name, machine, holder, since, until) '
                .'VALUES (?, ?, ?, UTC_TIMESTAMP(3), UTC_TIMESTAMP(3) + INTERVAL ? SECOND)',
            [$this->name, $this->machine, $this->holder, self::LASTS],
        );

        return $this->own()->useWritePdo()->exists();
    }

    private function own(): Builder
    {
        return DB::table('duties')->where('name', $this->name)->where('machine', $this->machine)->where('holder', $this->holder);
    }

    /** Who held it on this machine and has ended needs no waiting for. */
    private function freed(): bool
    {
        $other = DB::table('duties')->where('name', $this->name)->where('machine', $this->machine)->value('holder');
        if (! is_string($other)) {
            return false;
        }
        [$pid, $began, $system] = explode('-', $other) + [1 => '', ''];

        // Two machines that were given one name see not each other's processes.
        return $system === self::system() && self::beginning((int) $pid) !== $began
            && DB::table('duties')->where('name', $this->name)->where('holder', $other)->delete() > 0;
    }

    private static function system(): string
    {
        return substr(str_replace('-', '', trim((string) @file_get_contents('/proc/sys/kernel/random/boot_id'))), 0, 12);
    }

    /** Clock ticks after boot at which a process began; blank where there is none. */
    private static function beginning(int $pid): string
    {
        $stat = (string) @file_get_contents("/proc/$pid/stat");
        $fields = explode(' ', substr($stat, (int) strrpos($stat, ')') + 2));

        return in_array($fields[0], ['', 'Z'], true) ? '' : $fields[19] ?? '';
    }
}
