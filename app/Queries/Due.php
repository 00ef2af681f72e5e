<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Draft;
use App\Models\DraftHand;
use App\Models\DraftState;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Report;
use App\Models\Role;
use App\Models\Zone;
use App\Models\ZoneKey;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;

/** What will happen by itself, or has to be done by somebody, in the order of its time. */
final class Due
{
    /** Days ahead. */
    private const AHEAD = 120;

    private const MOST = 300;

    /**
     * For somebody who sees the whole organisation: of reports, drafts and tokens those that they may look at.
     *
     * @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}>
     */
    public static function next(Person $for): array
    {
        $events = [
            ...self::signing(),
            ...self::keys(),
            ...self::reports($for),
            ...self::fills(),
            ...self::waived(),
            ...self::tokens($for),
            ...self::lapses(),
            ...self::drafts($for),
        ];
        $from = now()->subDay();
        $until = now()->addDays(self::AHEAD);
        $events = array_filter($events, static fn (array $e): bool => $e['at']->betweenIncluded($from, $until));
        usort($events, static fn (array $a, array $b): int => $a['at'] <=> $b['at']);

        return array_slice($events, 0, self::MOST);
    }

    /** @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}> */
    private static function signing(): array
    {
        $events = [];
        $first = DB::table('signed_records')->groupBy('zone_id')->selectRaw('zone_id, MIN(expires) AS first')->pluck('first', 'zone_id');
        foreach (Zone::query()->with(['view', 'policy'])->whereIn('id', $first->keys())->get() as $zone) {
            $at = CarbonImmutable::createFromTimestamp((int) $first[$zone->id] - ($zone->policy->refresh ?? 0));
            $events[] = self::event(
                "signatures-$zone->id",
                $at,
                'signing',
                "Signatures of {$zone->line()} are made anew",
                'by itself',
                at('name.zone.signing', $zone->id),
            );
        }

        return $events;
    }

    /** @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}> */
    private static function keys(): array
    {
        $events = [];
        $keys = ZoneKey::query()->with('zone.policy')->whereNull('removed')->whereNull('retired')->whereNotNull('published')->get();
        foreach ($keys as $key) {
            $policy = $key->zone->policy;
            $life = $policy === null ? 0 : ($key->role->isEntry() ? $policy->entry_life : $policy->zone_key_life);
            $from = $key->role->signsZone() ? $key->active : $key->published;
            if ($life > 0 && $from !== null) {
                $at = CarbonImmutable::createFromTimestamp($from + $life);
                $events[] = self::event(
                    "key-$key->id",
                    $at,
                    'signing',
                    "The {$key->line()} is replaced",
                    "key $key->tag, by itself",
                    at('name.zone.signing', $key->zone_id),
                );
            }
        }

        return $events;
    }

    /** @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}> */
    private static function reports(Person $for): array
    {
        return array_values(Report::openTo($for)->whereNotNull('due_at')->where('paused', false)->get()
            ->map(static fn (Report $r): array => self::event(
                "report-$r->id",
                $r->due_at ?? CarbonImmutable::now(),
                'report',
                "The report \"$r->name\" is brought",
                $r->timetable()?->words() ?? '',
                at('watch.report', $r->id),
            ))->all());
    }

    /** @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}> */
    private static function drafts(Person $for): array
    {
        $all = $for->does(Role::Approver) || $for->does(Role::Steward);

        return array_values(Draft::query()->with('person')->where('state', DraftState::Submitted)->whereNotNull('due_at')
            ->where('due_problem', '')->when(! $all, static fn ($q) => $q->where(static fn ($own) => $own->where('person_id', $for->id)
            ->orWhereIn('id', DraftHand::query()->where('person_id', $for->id)->select('draft_id'))))
            ->get()->map(static fn (Draft $d): array => self::event(
                "draft-$d->id",
                $d->due_at ?? CarbonImmutable::now(),
                'draft',
                "A draft of {$d->person->name} is committed",
                'by itself, if it is agreed to by then',
                at('ship.draft', $d->id),
            ))->all());
    }

    /** @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}> */
    private static function fills(): array
    {
        return array_map(static fn (array $f): array => self::event(
            "full-{$f['prefix']->id}",
            CarbonImmutable::createFromTimestamp(86400 * $f['day']),
            'full',
            "{$f['prefix']->line()} is full",
            'as far as its samples tell; '.round($f['percent']).' % now',
            at('plan.prefix', $f['prefix']->id),
        ), Forecasts::filling(Prefix::query(), self::MOST));
    }

    /** @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}> */
    private static function waived(): array
    {
        $rows = DB::table('audit_findings')->where('waived_until', '>=', now()->subDays(2)->toDateString())->orderBy('waived_until')
            ->limit(self::MOST)->get();

        return array_values($rows->map(static fn (\stdClass $f): array => self::event(
            "waived-$f->id",
            CarbonImmutable::parse((string) $f->waived_until)->addDay(),
            'audit',
            "$f->title counts again",
            "left so because: $f->reason",
            at('watch.audit', $f->audit_id),
        ))->all());
    }

    /** @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}> */
    private static function tokens(Person $for): array
    {
        $rows = DB::table('tokens')->join('people', 'people.id', '=', 'tokens.person_id')->whereNull('tokens.revoked_at')
            ->when(! $for->does(Role::Steward), static fn ($q) => $q->where('tokens.person_id', $for->id))
            ->where('tokens.expires_at', '>=', now()->subDay())->orderBy('tokens.expires_at')->limit(self::MOST)->get([
                'tokens.id',
                'tokens.name',
                'people.name AS of',
                'tokens.expires_at',
            ]);

        return array_values($rows->map(static fn (\stdClass $t): array => self::event(
            "token-$t->id",
            CarbonImmutable::parse((string) $t->expires_at),
            'token',
            "The token \"$t->name\" ends",
            "of $t->of",
            $for->does(Role::Steward) ? at('directory.list', 'people') : at('me'),
        ))->all());
    }

    /**
     * @return list<array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string}> names that clients
     * registered, the first of each zone
     */
    private static function lapses(): array
    {
        $rows = DB::table('records')->join('zones', 'zones.id', '=', 'records.zone_id')->whereNotNull('zones.lapse_after')
            ->whereNotNull('records.renewed_at')->groupBy('zones.id', 'zones.name')
            ->selectRaw('zones.id, zones.name, MIN(records.renewed_at + INTERVAL zones.lapse_after SECOND) AS first, COUNT(*) AS n')->get();

        return array_values($rows->map(static fn (\stdClass $z): array => self::event(
            "lapse-$z->id",
            CarbonImmutable::parse((string) $z->first),
            'name',
            'The first name in '.rtrim((string) $z->name, '.').' lapses',
            "unless its client renews it; $z->n are registered",
            at('name.zone.service', $z->id),
        ))->all());
    }

    /** @return array{id: string, at: CarbonImmutable, what: string, title: string, words: string, link: string} */
    private static function event(string $id, CarbonImmutable $at, string $what, string $title, string $words, string $link): array
    {
        return ['id' => $id, 'at' => $at, 'what' => $what, 'title' => $title, 'words' => $words, 'link' => $link];
    }
}
