<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use App\Models\Audit;
use App\Queries\AuditTable;
use App\Queries\Reach;
use Illuminate\Support\Facades\DB;

/** Runs rules about the data: what fails now is kept with the day since when, what is right again is forgotten. */
final class AuditRun
{
    private const PART = 500;

    /** @return array<string, int> name → how many fail */
    public static function all(): array
    {
        $said = [];
        foreach (Audit::query()->where('active', true)->orderBy('name')->get() as $audit) {
            $said[$audit->name] = self::one($audit);
        }

        return $said;
    }

    /** @return int how many fail and are not left so */
    public static function one(Audit $audit): int
    {
        $table = AuditTable::of($audit, Reach::whole());
        $titles = $table->titles($table->failing());
        $now = now()->format('Y-m-d H:i:s');
        $known = DB::table('audit_findings')->where('audit_id', $audit->id)->pluck('id', 'object_id');
        foreach (array_chunk($known->diffKeys($titles)->values()->all(), self::PART) as $gone) {
            DB::table('audit_findings')->whereIn('id', $gone)->delete();
        }
        foreach (array_chunk(array_diff_key($titles, $known->all()), self::PART, true) as $part) {
            $rows = [];
            foreach ($part as $id => $title) {
                $rows[] = ['audit_id' => $audit->id, 'object_id' => $id, 'title' => mb_strimwidth($title, 0, 240, '…'), 'since' => $now];
            }
            DB::table('audit_findings')->insertOrIgnore($rows);
        }
        $failing = AuditTable::open($audit->id);
        // A machine's figures, and nobody's act.
        DB::table('audits')->where('id', $audit->id)->update(['run_at' => $now, 'failing' => $failing]);
        DB::table('audit_days')->upsert(
            [['audit_id' => $audit->id, 'day' => now()->toDateString(), 'failing' => $failing]],
            ['audit_id', 'day'],
            ['failing'],
        );

        return $failing;
    }
}
