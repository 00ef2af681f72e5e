<?php

declare(strict_types=1);

namespace App\Acts\Sign;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Domain\Name\ServedTtls;
use App\Domain\Name\Signing;
use App\Models\KeyWish;
use App\Models\Part;
use App\Models\Record;
use App\Models\SigningPolicy;
use App\Models\Zone;
use App\Models\ZoneKey;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Dnssec\KeyRole;
use HarborPost\Core\Dns\Dnssec\SignableSets;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Ttl;

/**
 * A zone is signed by a policy: keys are drawn now, signatures are made with its next shipment, the parent names the key when that is
 * safe.
 */
final readonly class SignZone extends Act
{
    use OfZone;

    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(Kind::Id, 'Policy', of: SigningPolicy::class)]
        public string $policy,
    ) {
    }

    public function title(): string
    {
        return 'Sign '.(Zone::query()->find($this->zone)?->title() ?? 'a zone');
    }

    public function landing(): string
    {
        return at('name.zone.signing', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $zone = Zone::query()->with('view')->lockForUpdate()->find($this->zone)
            ?? $ledger->refuse('gone', 'The zone is not there any more');
        $policy = SigningPolicy::query()->find($this->policy) ?? $ledger->refuse(
            'gone',
            'The policy is not there any more',
            field: 'policy',
        );
        if ($zone->policy_id !== null) {
            $ledger->refuse('signed-already', "{$zone->title()} is signed already", link: $this->landing());
        }
        self::preflight($ledger, $zone, $policy);
        $now = $ledger->at->getTimestamp();
        foreach ($policy->split ? [KeyRole::Ksk, KeyRole::Zsk] : [KeyRole::Csk] as $role) {
            $key = ZoneKey::draw($zone, $role, $policy->algorithm, $now);
            $key->wants = $role->signsZone() ? KeyWish::Active : KeyWish::Nothing;
            $key->save();
        }
        $zone->fill(['policy_id' => $policy->id, 'signed_since' => null, 'unsign_asked' => null, 'unsign_seen' => null])->save();
        Records::mark($zone);
        $this->foretell($ledger, $zone, $policy);
    }

    /** Whether a zone can be signed by a policy at all, and what is odd about it. */
    public static function preflight(Ledger $ledger, Zone $zone, SigningPolicy $policy): void
    {
        if ($zone->update_mode !== 'refused') {
            $ledger->refuse(
                'takes-updates',
                "{$zone->title()} takes dynamic updates",
                'What a client writes there would have no signature, and no resolver that validates would believe it. Refuse updates '
                    .'first.',
                'RFC 3007 §4.3',
                link: at('name.zone.service', $zone->id),
            );
        }
        $own = Record::query()->where('zone_id', $zone->id)
            ->whereIn('type', [RecordType::DNSKEY, RecordType::CDS, RecordType::CDNSKEY, RecordType::NSEC3PARAM])->first();
        if ($own !== null) {
            $ledger->refuse(
                'keys-written',
                "{$own->typeName()} records stand in the zone already",
                'Keys that are made here take their place: remove these first.',
                'RFC 4035 §2.1',
            );
        }
        self::checkServers($ledger, $zone);
        self::checkPolicy($ledger, $zone, $policy);
        self::checkViews($ledger, $zone);
    }

    /** Every server of the zone has it as it is. */
    private static function checkServers(Ledger $ledger, Zone $zone): void
    {
        $placements = ZoneServer::query()->with('server')->where('zone_id', $zone->id)->where('planned', false)->get();
        if ($placements->where('part', Part::Primary)->isEmpty()) {
            $ledger->refuse(
                'on-no-server',
                'No server has this zone',
                'A zone is signed for the servers that answer it.',
                link: at('name.zone.service', $zone->id),
            );
        }
        foreach ($placements as $placement) {
            if ($placement->verified_at === null || $placement->shipped_serial !== $zone->serial) {
                $ledger->warn(
                    'server-behind',
                    "{$placement->server->name} is not proved to have the zone as it is",
                    'Steps of keys wait until every server has what was shipped.',
                    'RFC 7583 §3.2.2',
                    link: at('ship.server', $placement->server_id),
                );
            }
        }
    }

    /** Signatures outlive what secondaries and caches keep. */
    private static function checkPolicy(Ledger $ledger, Zone $zone, SigningPolicy $policy): void
    {
        if ($policy->refresh < $zone->expire) {
            $ledger->warn(
                'refresh-below-expire',
                'A secondary that loses its primary would serve signatures that have expired',
                'It serves the zone for '.Ttl::of($zone->expire)->spoken().', and signatures are sure to hold for '
                    .Ttl::of($policy->refresh)->spoken().' more.',
                'RFC 6781 §4.4.2',
                link: at('name.signing'),
            );
        }
        $longest = Signing::longestTtl($zone);
        if ($longest > $policy->validity - $policy->jitter - $policy->refresh) {
            $ledger->warn(
                'ttl-above-validity',
                'Records of '.Ttl::of($longest)->spoken().' outlive their signatures in caches',
                standard: 'RFC 6781 §4.4.2',
            );
        }
    }

    /** Who is answered by another view sees the DS at the parent too. */
    private static function checkViews(Ledger $ledger, Zone $zone): void
    {
        $others = Zone::query()->with('view')->where('name', $zone->name)->whereKeyNot($zone->id)->whereNull('policy_id')->get();
        foreach (Signing::parentOf($zone) === null ? $others : [] as $other) {
            $ledger->warn(
                'other-view-unsigned',
                "{$other->line()} is not signed",
                'A parent that names a key is seen by its clients too, and they would believe nothing of it. Sign it by the same keys '
                    .'elsewhere, '
                    .'or hand this one out as an anchor alone.',
                'RFC 6781 §4',
                link: at('name.zone.signing', $other->id),
            );
        }
    }

    /** How many records are added, how large answers get, and what happens when. */
    private function foretell(Ledger $ledger, Zone $zone, SigningPolicy $policy): void
    {
        $signatures = $denials = 0;
        foreach ((new SignableSets($zone->origin(), $policy->denial))->of(Signing::nodes($zone)) as $set) {
            $signatures++;
            $denials += in_array($set->type()->number, [RecordType::NSEC, RecordType::NSEC3], true) ? 1 : 0;
        }
        // The keys themselves, and what asks the parent to name one.
        $signatures += 3;
        $how = $policy->denial === Denial::Names ? 'NSEC' : 'NSEC3';
        $ledger->later("$signatures signatures and $denials $how records are added with the next shipment");
        $size = $policy->algorithm->signatureSize();
        $keys = ($policy->split ? 2 : 1) * ($size + 4 + 23) + $size + 60;
        $ledger->passed(
            'sizes',
            'Each answer grows by about '.($size + 46)." bytes a set; the answer with the keys takes about $keys bytes"
                .($keys > 1232 ? ', more than one packet: it is asked for over TCP' : ', which fits one packet'),
            'RFC 6891 §6.2.5',
        );
        $wait = Ttl::of($policy->propagation + max(
            Signing::longestTtl($zone),
            ServedTtls::of($zone, ServedTtls::ZONE)->longest($ledger->at->getTimestamp(), $policy->propagation),
        ))->spoken();
        $parent = Signing::parentOf($zone);
        $goes = $parent === null
            ? 'its DS can be given to the parent, or handed to resolvers as an anchor'
            : "its DS goes into {$parent->line()}";
        $ledger->later("$wait after every server has it, $goes");
    }
}
