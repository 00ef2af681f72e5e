<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Links\Unanswered;
use App\Models\Record;
use App\Models\Zone;
use App\Models\ZoneKey;
use HarborPost\Core\Dns\Dnssec\Trust;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;

/** Whether a server answers a zone as it is meant, asked by packets: its SOA, what changed last, and its signatures. */
final readonly class ZoneProof
{
    /** Changed names that are asked for after a shipment. */
    private const SAMPLE = 12;

    /** Types that signing makes: proved by what they sign. */
    public const MADE = [
        RecordType::RRSIG, RecordType::NSEC, RecordType::NSEC3, RecordType::NSEC3PARAM, RecordType::DNSKEY, RecordType::CDS,
        RecordType::CDNSKEY,
    ];

    /** Seconds that a secondary gets to fetch what its primary has. */
    private const FETCHING = 2.0;

    /** @param  ?Address  $for  a client in the zone's view, where the server answers from one */
    public function __construct(private string $server, private DnsClient $dns, private ?Address $for)
    {
    }

    /**
     * @param  bool  $secondary  it fetches by itself: it is given its time
     * @param  \Closure(): string  $trouble  why a secondary did not fetch, as far as it says
     * @return string what was asked and answered, for people
     *
     * @throws Unanswered
     */
    public function of(Zone $zone, bool $secondary, \Closure $trouble): string
    {
        $serial = $this->dns->serial($zone->origin(), $this->for);
        if ($zone->silenced) {
            return $serial === null
                ? 'the zone is silenced and not answered'
                : throw Unanswered::differs($this->server, "it still answers the silenced zone {$zone->title()}");
        }
        $meant = Serial::of($zone->serial);
        for (
            $end = microtime(true) + ($secondary ? self::FETCHING : 0); ($serial === null || ! $serial->equals($meant))
                && microtime(true) < $end; usleep(40_000)
        ) {
            $serial = $this->dns->serial($zone->origin(), $this->for);
        }
        if ($serial === null || ! $serial->equals($meant)) {
            $why = $secondary ? ': '.$trouble() : '';
            throw Unanswered::differs(
                $this->server,
                "{$zone->title()} is meant to have serial $zone->serial, it answers "
                    .($serial ?? 'no SOA')
                    .($why === ': ' ? ', its primary has no newer one; ship that first' : $why),
            );
        }
        $asked = $hidden = 0;
        foreach ($this->changedSets($zone) as $set) {
            $this->verifySet($zone, Name::parse($set->owner), RecordType::of($set->type)) ? $asked++ : $hidden++;
        }
        $signed = $zone->signed_since === null && $zone->policy_id === null ? '' : $this->verifySigned($zone);
        $sets = static fn (int $n): string => $n === 1 ? '1 changed record set' : "$n changed record sets";

        return ($secondary ? 'fetched from its primary; ' : '')
            ."SOA $serial answered with authority"
            .($asked === 0 ? '' : ", {$sets($asked)} asked and right")
            .$signed
            .($hidden === 0 ? '' : "; {$sets($hidden)} cannot be asked for here: below a delegation or a wildcard, so not proved");
    }

    /** @return array<int, \stdClass> owner, type */
    private function changedSets(Zone $zone): array
    {
        return DB::table('record_changes')->where('zone_id', $zone->id)->where('serial', $zone->serial)
            ->where('op', '!=', '~')->whereNotIn('type', self::MADE)->distinct()->limit(self::SAMPLE)->get(['owner', 'type'])->all();
    }

    /** @return bool false when the server does not answer for such a name itself */
    private function verifySet(Zone $zone, Name $owner, RecordType $type): bool
    {
        $meant = Record::query()->where('zone_id', $zone->id)->where('owner_key', $owner->sortKey())
            ->where('type', $type->number)->pluck('data')->sort()->values()->all();
        if ($owner->isWildcard() || $this->isElsewhere($zone, $owner)) {
            return false;
        }
        $answer = $this->dns->ask($owner, $type, $this->for, false)->message;
        $got = array_values(
            array_filter(
                array_map(
                    fn (DnsRecord $r): ?string => $r->type()->equals($type) && $r->owner->equals($owner) ? $r->data->text() : null,
                    $answer->answers,
                ),
            ),
        );
        sort($got);
        if ($got !== $meant && ! ($meant === [] && $answer->answers !== [] && $got === [])) {
            throw Unanswered::differs(
                $this->server,
                "$owner $type is meant to be "
                    .(implode(', ', $meant) ?: 'nothing')
                    .', it answers '
                    .(implode(', ', $got) ?: $answer->rcode->explained()),
            );
        }

        return true;
    }

    /** What it answers is signed by the keys that are meant: its SOA and its keys, from the newest entry down. */
    private function verifySigned(Zone $zone): string
    {
        $entry = $zone->keys()->get()->filter(fn (ZoneKey $k): bool => $k->isEntry())->last();
        if ($entry === null) {
            return '';
        }
        $verdict = $this->dns->judge(
            new Question($zone->origin(), RecordType::of(RecordType::SOA)),
            [new DnsRecord($zone->origin(), 0, $entry->dnskey())],
            now()->getTimestamp(),
            $this->for,
            recursion: false,
        );

        return $verdict->trust === Trust::Secure
            ? ', its signature holds'
            : throw Unanswered::differs(
                $this->server,
                "{$zone->title()} is meant to be signed by key $entry->tag: {$verdict->words()}",
            );
    }

    /** Below a delegation or a DNAME of the zone, or in a zone of its own on the same view. */
    private function isElsewhere(Zone $zone, Name $owner): bool
    {
        $names = $keys = [];
        for ($up = $owner; $up !== null && ! $up->equals($zone->origin()); $up = $up->parent()) {
            $names[] = (string) $up->lower();
            $keys[] = $up->sortKey();
        }

        return $keys !== [] && (Record::query()->where('zone_id', $zone->id)->whereIn('owner_key', $keys)
            ->whereIn('type', [RecordType::NS, RecordType::DNAME])->exists()
            || Zone::query()->where('view_id', $zone->view_id)->whereIn('name', $names)->exists());
    }
}
