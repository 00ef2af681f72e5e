<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\ApprovalRule;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\DraftVerdict;
use App\Models\Role;
use App\Models\TeamMember;
use HarborPost\Core\Agreement\ChangeFacts;
use HarborPost\Core\Agreement\Rule;
use HarborPost\Core\Agreement\RuleKind;

/**
 * Does what an attempt writes need the agreement of others, and is it given? Asked for every attempt of a person; the console and what
 * servers tell have none.
 */
final class Agreement
{
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
            ApprovalRule::query()->with('team')->where('active', true)->get()->map(static fn (ApprovalRule $r): Rule => $r->rule())->all(),
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
        foreach (self::counts($draft, $needed) as ['rule' => $rule, 'have' => $have]) {
            if ($have < $rule->needs) {
                return self::words($rule, $have);
            }
        }

        return null;
    }

    /**
     * How many agree, by each rule that asks: of any approver, or of its team as it is now.
     *
     * @param  list<Rule>  $needed
     * @return list<array{rule: Rule, have: int}> what lacks most first
     */
    public static function counts(?Draft $draft, array $needed): array
    {
        $agreed = $draft === null ? [] : self::agreed($draft)->pluck('person_id')->all();
        $counts = [];
        foreach ($needed as $rule) {
            $have = $rule->team === null ? count($agreed)
                : TeamMember::query()->where('team_id', $rule->team)->whereIn('person_id', $agreed)->count();
            $counts[] = ['rule' => $rule, 'have' => $have];
        }
        usort($counts, static fn (array $a, array $b): int => $b['rule']->needs - $b['have'] <=> $a['rule']->needs - $a['have']);

        return $counts;
    }

    /** @return \Illuminate\Support\Collection<int, DraftDecision> agreements that count: of approvers who are still there, each once */
    public static function agreed(Draft $draft): \Illuminate\Support\Collection
    {
        $standing = $draft->standing()->toBase();
        if ($standing->contains('verdict', DraftVerdict::Refused)) {
            return collect();
        }

        return $standing->where('verdict', DraftVerdict::Agreed)
            ->filter(static fn (DraftDecision $d): bool => ! $draft->isBy($d->person_id)
                && $d->person->active && $d->person->does(Role::Approver))
            ->unique('person_id')->values();
    }

    private static function words(Rule $rule, int $have): string
    {
        return "{$rule->sentence()} ".($have === 0
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
            $warned = $warned || array_filter($ledger->notes, static fn (Note $n): bool => $n->warns()) !== [];
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

        return new ChangeFacts($rows, $touched, $removed, $places ? WrittenPlaces::sites($written, $many) : [], $warned);
    }
}
