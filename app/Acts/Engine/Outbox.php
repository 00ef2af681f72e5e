<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use Illuminate\Support\Facades\DB;

/**
 * What an act wrote, as an event for systems outside: in the act's own transaction, so that none is lost and none is told that never was.
 */
final class Outbox
{
    /** Rows that one event lists; the rest is counted. */
    private const LISTED = 500;

    /** Kinds that are nobody's business outside. */
    private const INSIDE = ['draft', 'hand on a draft', 'edit', 'remark', 'token', 'hook', 'lease', 'import', 'scan', 'sweep', 'shipment'];

    public static function put(Ledger $ledger): void
    {
        $written = array_values(
            array_filter($ledger->written, static fn (Written $w): bool => ! in_array($w->noun, self::INSIDE, true)),
        );
        if ($written === [] && $ledger->bulk === 0 || DB::table('hooks')->where('active', true)->doesntExist()) {
            return;
        }
        $kinds = array_values(
            array_unique([...array_map(static fn (Written $w): string => $w->noun, $written), ...array_keys($ledger->many)]),
        );
        DB::table('outbox')->insert([
            'act_id' => $ledger->actId, 'at' => $ledger->at->format('Y-m-d H:i:s.v'),
            'sites' => DB::table('hooks')->where('active', true)->whereNotNull('site_id')->exists()
                ? '|'.implode('|', WrittenPlaces::sites($written, [$ledger->many])).'|'
                : null,
            'kinds' => mb_strimwidth('|'.implode('|', $kinds).'|', 0, 500, ''),
            'body' => json_encode([
                'act' => $ledger->action, 'id' => $ledger->actId, 'at' => $ledger->at->format('Y-m-d\TH:i:s.v\Z'),
                'by' => $ledger->person?->sign_in,
                'via' => $ledger->via, 'rows' => count($written) + $ledger->bulk,
                'written' => array_map(self::row(...), array_slice($written, 0, self::LISTED)),
            ], JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE),
        ]);
    }

    /** @return array<string, mixed> */
    private static function row(Written $w): array
    {
        return [
            'op' => $w->word(), 'kind' => $w->noun, 'id' => $w->id,
            'line' => $w->line,
            'before' => $w->before, 'after' => $w->after,
        ];
    }
}
