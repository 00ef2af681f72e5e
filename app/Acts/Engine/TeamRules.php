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
 * said again at each edit; what an edit mends is known no more, so that it does not fail again unsaid.
 */
final class TeamRules
{
    /** Objects that are judged while somebody waits; of more the night tells, and a rule that blocks lets none through. */
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

    /** What a row names is judged too: the subnet that lost its scope, the VLAN that a subnet left. */
    private const NAMES = [
        'prefix_id' => FactKind::Subnet, 'zone_id' => FactKind::Zone, 'scope_id' => FactKind::Scope, 'vlan_id' => FactKind::Vlan,
        'device_id' => FactKind::Device, 'server_id' => FactKind::Server,
    ];

    /**
     * @param  list<Ledger>  $ledgers
     *
     * @throws Refused where a rule blocks
     */
    public static function ask(array $ledgers): void
    {
        [$touched, $unseen] = self::touched($ledgers);
        $last = $ledgers[count($ledgers) - 1] ?? null;
        if ($touched === [] && $unseen === [] || $last === null) {
            return;
        }
        $rules = Audit::query()->with('site')->where('active', true)->where('at_edit', '!=', AtEdit::Off)
            ->whereIn('kind', array_keys($touched + $unseen))->orderBy('name')->get();
        foreach ($rules as $rule) {
            $ids = array_map(strval(...), array_keys($touched[$rule->kind->value] ?? []));
            $many = count($ids) + ($unseen[$rule->kind->value] ?? 0);
            isset($unseen[$rule->kind->value]) || $many > self::MOST ? self::tooMany($last, $rule, $many) : self::one($last, $rule, $ids);
        }
    }

    private static function tooMany(Ledger $ledger, Audit $rule, int $many): void
    {
        $all = number_format($many)." {$rule->kind->plural()}";
        if ($rule->at_edit === AtEdit::Block) {
            $ledger->refuse(
                'team-rule-too-many',
                "\"$rule->name\" cannot be asked of $all at once",
                'It lets nothing through that fails. Write them in parts of at most '.Ledger::LISTED.' rows.',
                link: self::page($ledger, $rule),
            );
        }
        $ledger->later("\"$rule->name\" is asked of $all at night: they are too many now");
    }

    /** @param  list<string>  $ids */
    private static function one(Ledger $ledger, Audit $rule, array $ids): void
    {
        $table = AuditTable::of($rule, Reach::whole());
        $failing = $table->titles($table->failing()->whereIn(FactQuery::id($rule->kind), $ids));
        $known = DB::table('audit_findings')->where('audit_id', $rule->id)->whereIn('object_id', $ids)->pluck('id', 'object_id')->all();
        $mended = array_diff_key($known, $failing);
        if ($mended !== []) {
            DB::table('audit_findings')->whereIn('id', $mended)->delete();
            DB::table('audits')->where('id', $rule->id)->update(['failing' => AuditTable::open($rule->id)]);
        }
        $new = array_values(array_diff_key($failing, $known));
        if ($new === []) {
            return;
        }
        $more = count($new) - self::NAMED;
        $message = implode(', ', array_slice($new, 0, self::NAMED)).($more > 0 ? " and $more more" : '')
            .(count($new) === 1 ? ' fails' : ' fail')." \"$rule->name\"";
        $why = trim(AuditTable::sentence($rule)." $rule->explanation");
        $rule->at_edit === AtEdit::Block
            ? $ledger->refuse('team-rule-blocks', $message, $why, link: self::page($ledger, $rule))
            : $ledger->warn('team-rule', $message, $why, link: self::page($ledger, $rule));
    }

    /** Whoever is bound to one tenant has no page of rules to go to. */
    private static function page(Ledger $ledger, Audit $rule): ?string
    {
        return $ledger->person?->isBound() === false ? at('watch.audit', $rule->id) : null;
    }

    /**
     * @param  list<Ledger>  $ledgers
     * @return array{array<string, array<string, true>>, array<string, int>} kind → ids; kind → how many were written that are not listed
     */
    private static function touched(array $ledgers): array
    {
        $touched = $unseen = [];
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
                foreach (self::NAMES as $column => $named) {
                    foreach ([$row->before[$column] ?? null, $row->after[$column] ?? null] as $id) {
                        is_string($id) ? $touched[$named->value][$id] = true : null;
                    }
                }
            }
            foreach ($ledger->many as $noun => $many) {
                $kind = self::KINDS[$noun] ?? null;
                if ($kind !== null && $many['add'] > 0) {
                    $unseen[$kind->value] = ($unseen[$kind->value] ?? 0) + $many['add'];
                }
                if (isset(self::PARTS[$noun])) {
                    $whole = self::PARTS[$noun]->value;
                    $touched[$whole] = ($touched[$whole] ?? []) + $many['within'];
                }
            }
        }

        return [$touched, $unseen];
    }
}
