<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\ApprovalRule;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\Prefix;
use App\Models\Role;
use App\Queries\Ancestors;
use HarborPost\Core\Agreement\ChangeFacts;
use HarborPost\Core\Agreement\Rule;
use HarborPost\Core\Agreement\RuleKind;
use Illuminate\Support\Facades\DB;

/**
 * Does what an attempt writes need the agreement of others, and is it given? Asked for every attempt of a person; the console and what
 * servers tell have none.
 */
final class Agreement
{
    /** Objects that tell where they are by themselves: noun → kind of place. */
    private const ITSELF = ['site' => 'site', 'prefix' => 'prefix', 'scope' => 'scope', 'layer-2 domain' => 'domain'];

    /** Objects that are where the one is to which they belong. */
    private const WITHIN = [
        'address' => 'prefix', 'held run' => 'prefix', 'range' => 'scope', 'exclusion' => 'scope', 'delegation' => 'scope',
        'reservation' => 'scope',
        'scope on a server' => 'scope', 'option' => 'scope',
    ];

    /**
     * Inside the transaction of the attempt, when everything is written.
     *
     * @param  list<Ledger>  $ledgers  one an act, in order
     * @return list<Rule> those that hold, the one that needs most first
     */
    public static function needed(Attempt $attempt, array $ledgers): array
    {
        $governed = [];
        foreach ($ledgers as $i => $ledger) {
            if (isset($attempt->acts[$i]) && $attempt->acts[$i]::governed()) {
                $governed[] = $ledger;
            }
        }
        if ($attempt->person === null || $governed === []) {
            return [];
        }
        $rules = array_values(
            ApprovalRule::query()->where('active', true)->get()->map(static fn (ApprovalRule $r): Rule => $r->rule())->all(),
        );

        return $rules === [] ? [] : Rule::thatHold($rules, self::facts($governed, self::asks($rules, RuleKind::Site)));
    }

    /**
     * @param  list<Rule>  $needed
     * @return ?string why not; null when it is given
     */
    public static function missing(Attempt $attempt, array $needed): ?string
    {
        if ($needed === []) {
            return null;
        }
        if ($attempt->emergency && $attempt->person?->does(Role::Steward) === true) {
            return mb_strlen(trim((string) $attempt->reason)) >= 10
                ? null
                : 'In an emergency it can be committed without agreement: say in ten letters or more what the emergency is.';
        }
        $draft = self::draft($attempt);
        $have = $draft === null ? 0 : self::agreed($draft)->count();

        return $have >= $needed[0]->needs ? null : self::words($needed, $have);
    }

    /** @return \Illuminate\Support\Collection<int, DraftDecision> agreements that count: of approvers who are still there, each once */
    public static function agreed(Draft $draft): \Illuminate\Support\Collection
    {
        $standing = $draft->standing()->toBase();
        if ($standing->contains('verdict', DraftDecision::REFUSED)) {
            return collect();
        }

        return $standing->where('verdict', DraftDecision::AGREED)
            ->filter(static fn (DraftDecision $d): bool => $d->person_id !== $draft->person_id
                && $d->person->active && $d->person->does(Role::Approver))
            ->unique('person_id')->values();
    }

    /** @param  list<Rule>  $needed */
    private static function words(array $needed, int $have): string
    {
        return "{$needed[0]->sentence()} ".($have === 0
            ? 'Add it to a draft and submit that.'
            : ($have === 1 ? 'One has' : "$have have").' agreed so far.');
    }

    private static function draft(Attempt $attempt): ?Draft
    {
        foreach ($attempt->acts as $act) {
            if ($act->ofDraft() !== null) {
                return Draft::query()->with(['edits', 'decisions.person'])->lockForUpdate()->find($act->ofDraft());
            }
        }

        return null;
    }

    /** @param  list<Rule>  $rules */
    private static function asks(array $rules, RuleKind $kind): bool
    {
        return array_filter($rules, static fn (Rule $r): bool => $r->kind === $kind) !== [];
    }

    /** @param  list<Ledger>  $ledgers */
    private static function facts(array $ledgers, bool $places): ChangeFacts
    {
        $rows = 0;
        $warned = false;
        $touched = $removed = $written = [];
        foreach ($ledgers as $ledger) {
            $rows += $ledger->bulk;
            foreach ($ledger->many as $noun => $many) {
                $touched[$noun] = ($touched[$noun] ?? 0) + $many['add'] + $many['cut'];
                $removed[$noun] = ($removed[$noun] ?? 0) + $many['cut'];
            }
            $warned = $warned || array_filter($ledger->notes, static fn (Note $n): bool => $n->verdict === 'warned') !== [];
            foreach ($ledger->written as $one) {
                if (in_array($one->noun, ApprovalRule::APART, true)) {
                    continue;
                }
                $rows++;
                $touched[$one->noun] = ($touched[$one->noun] ?? 0) + 1;
                $removed[$one->noun] = ($removed[$one->noun] ?? 0) + ($one->op === 'cut' ? 1 : 0);
                $written[] = $one;
            }
        }

        $many = array_map(static fn (Ledger $l): array => $l->many, $ledgers);

        return new ChangeFacts($rows, $touched, $removed, $places ? self::sites($written, $many) : [], $warned);
    }

    /**
     * Sites of what is written: its own, that of its subnet, or that of its layer-2 domain; and all that they stand in.
     *
     * @param  list<Written>  $written
     * @param  list<array<string, array{add: int, cut: int, within: array<string, true>}>>  $many  what each act wrote in bulk
     * @return list<string>
     */
    private static function sites(array $written, array $many): array
    {
        $ids = ['site' => [], 'prefix' => [], 'scope' => [], 'domain' => []];
        foreach ($many as $nouns) {
            foreach (array_intersect_key(self::WITHIN, $nouns) as $noun => $kind) {
                $ids[$kind] += $nouns[$noun]['within'];
            }
        }
        foreach ($written as $one) {
            if (isset(self::ITSELF[$one->noun])) {
                $ids[self::ITSELF[$one->noun]][$one->id] = true;
            }
            if ($one->within !== null && isset(self::WITHIN[$one->noun])) {
                $ids[self::WITHIN[$one->noun]][$one->within] = true;
            }
            if ($one->noun === 'VLAN') {
                $ids['domain'][(string) DB::table('vlans')->where('id', $one->id)->value('domain_id')] = true;
            }
            foreach (['site_id' => 'site', 'prefix_id' => 'prefix', 'scope_id' => 'scope', 'domain_id' => 'domain'] as $column => $kind) {
                foreach ([$one->before[$column] ?? null, $one->after[$column] ?? null] as $id) {
                    if (is_string($id)) {
                        $ids[$kind][$id] = true;
                    }
                }
            }
        }
        $scopes = DB::table('scopes')->whereIn('id', array_keys($ids['scope']))->pluck('prefix_id')->all();
        $prefixes = array_values([...array_keys($ids['prefix']), ...$scopes]);
        $sites = [
            ...array_keys($ids['site']), ...self::sitesOf($prefixes),
            ...DB::table('layer2_domains')->whereIn('id', array_keys($ids['domain']))->whereNotNull('site_id')->pluck('site_id')->all(),
        ];

        return self::withOuter(array_values(array_unique(array_map(strval(...), $sites))));
    }

    /**
     * @param  list<mixed>  $prefixes
     * @return list<string> a prefix without a site stands at that of the nearest one around it
     */
    private static function sitesOf(array $prefixes): array
    {
        $sites = [];
        foreach (array_chunk(array_values(array_unique($prefixes, SORT_REGULAR)), 1000) as $chunk) {
            foreach (Prefix::query()->whereIn('id', $chunk)->get() as $row) {
                $site = $row->site_id ?? Ancestors::of($row->space_id, $row->prefix())->reverse()
                    ->first(static fn (Prefix $p): bool => $p->site_id !== null)?->site_id;
                if ($site !== null) {
                    $sites[] = $site;
                }
            }
        }

        return $sites;
    }

    /**
     * @param  list<string>  $sites
     * @return list<string>
     */
    private static function withOuter(array $sites): array
    {
        $parents = $sites === [] ? [] : DB::table('sites')->pluck('parent_id', 'id')->all();
        $all = [];
        foreach ($sites as $site) {
            for ($at = $site, $deep = 0; is_string($at) && $deep < 32; $at = $parents[$at] ?? null, $deep++) {
                $all[$at] = true;
            }
        }

        return array_map(strval(...), array_keys($all));
    }
}
