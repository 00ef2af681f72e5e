<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\AtEdit;
use App\Models\Audit;
use App\Models\FactKind;
use App\Queries\AuditTable;
use App\Queries\Facts\FactQuery;
use App\Queries\Reach;
use Illuminate\Support\Facades\DB;

/**
 * Rules of the team, asked of what an edit wrote before it is kept. What failed already when a rule was run last is known there, and is not
 * said again at each edit.
 */
final class TeamRules
{
    /** Objects that are judged while somebody waits; of more the night tells. */
    private const MOST = 1000;

    /** Objects that are named, of each rule. */
    private const NAMED = 5;

    private const KINDS = [
        'prefix' => FactKind::Subnet, 'address' => FactKind::Address, 'zone' => FactKind::Zone, 'scope' => FactKind::Scope,
        'VLAN' => FactKind::Vlan, 'server' => FactKind::Server, 'device' => FactKind::Device,
    ];

    /** What belongs to an object, so that the object is judged when it changes. */
    private const PARTS = [
        'address' => FactKind::Subnet, 'record' => FactKind::Zone, 'zone on a server' => FactKind::Zone, 'range' => FactKind::Scope,
        'exclusion' => FactKind::Scope, 'reservation' => FactKind::Scope, 'option' => FactKind::Scope,
        'scope on a server' => FactKind::Scope,
    ];

    /**
     * @param  list<Ledger>  $ledgers
     *
     * @throws Refused where a rule blocks
     */
    public static function ask(array $ledgers): void
    {
        $touched = self::touched($ledgers);
        $last = $ledgers[count($ledgers) - 1] ?? null;
        if ($touched === [] || $last === null) {
            return;
        }
        $rules = Audit::query()->with('site')->where('active', true)->where('at_edit', '!=', AtEdit::Off)
            ->whereIn('kind', array_keys($touched))->orderBy('name')->get();
        foreach ($rules as $rule) {
            $ids = array_map(strval(...), array_keys($touched[$rule->kind->value]));
            if (count($ids) > self::MOST) {
                $last->later("\"$rule->name\" is asked of ".number_format(count($ids)).' objects at night: they are too many now');

                continue;
            }
            self::one($last, $rule, $ids);
        }
    }

    /** @param  list<string>  $ids */
    private static function one(Ledger $ledger, Audit $rule, array $ids): void
    {
        $known = DB::table('audit_findings')->where('audit_id', $rule->id)->whereIn('object_id', $ids)->pluck('object_id')->all();
        $new = array_values(array_diff($ids, $known));
        $table = AuditTable::of($rule, Reach::whole());
        $failing = $table->failing()->whereIn(FactQuery::id($rule->kind), $new);
        $titles = $new === [] ? [] : $table->titles((clone $failing)->limit(self::NAMED));
        if ($titles === []) {
            return;
        }
        $count = count($titles) < self::NAMED ? count($titles) : $failing->count();
        $message = implode(', ', $titles).($count > count($titles) ? ' and '.($count - count($titles)).' more' : '')
            .($count === 1 ? ' fails' : ' fail')." \"$rule->name\"";
        $why = trim(AuditTable::sentence($rule)." $rule->explanation");
        // Whoever is bound to one tenant has no page of rules to go to.
        $link = $ledger->person?->isBound() === false ? "/watch/audits/$rule->id" : null;
        $rule->at_edit === AtEdit::Block
            ? $ledger->refuse('team-rule-blocks', $message, $why, link: $link)
            : $ledger->warn('team-rule', $message, $why, link: $link);
    }

    /**
     * @param  list<Ledger>  $ledgers
     * @return array<string, array<string, true>> kind → ids
     */
    private static function touched(array $ledgers): array
    {
        $touched = [];
        foreach ($ledgers as $ledger) {
            foreach ($ledger->written as $row) {
                $kind = $row->op === 'cut' ? null : self::KINDS[$row->noun] ?? null;
                if ($kind !== null) {
                    $touched[$kind->value][$row->id] = true;
                }
                $whole = self::PARTS[$row->noun] ?? null;
                if ($whole !== null && $row->within !== null) {
                    $touched[$whole->value][$row->within] = true;
                }
            }
        }

        return $touched;
    }
}
