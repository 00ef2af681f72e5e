<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Database\Bulk;
use App\Models\KeyWish;
use App\Models\Record;
use App\Models\Zone;
use App\Models\ZoneKey;
use App\Models\ZoneServer;
use App\Queries\Zones;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\Dnssec\KeptSignature;
use HarborPost\Core\Dns\Dnssec\KeySchedule;
use HarborPost\Core\Dns\Dnssec\Node;
use HarborPost\Core\Dns\Dnssec\SignedSet;
use HarborPost\Core\Dns\Dnssec\SigningKey;
use HarborPost\Core\Dns\Dnssec\ZoneSigner;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Rrsig;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\Serial;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;

/** Keeps what signing puts beside the records of a zone in step with them, and hands the difference to the zone's journal. */
final class Signing
{
    private const PART = 500;

    /** @var array<string, KeptSignature> */
    private array $kept = [];

    /** @var array<int, \stdClass> rows that are there and were not found to be right yet, by id */
    private array $left = [];

    /** @var array<string, int> line of a record that signing made → its row */
    private array $made = [];

    /** @var list<array<string, mixed>> */
    private array $rows = [];

    /** @var list<array<string, mixed>> */
    private array $journal = [];

    private int $signatures = 0;

    private function __construct(private readonly Zone $zone)
    {
    }

    /**
     * Signs what changed, what is due and what a new key has to sign; journals it with the serial of the zone.
     *
     * @return int signatures made
     */
    public static function renew(Zone $zone, int $now): int
    {
        $self = new self($zone);
        $self->load();
        $signer = self::signer($zone);
        foreach ($signer === null ? [] : $signer->sign(self::nodes($zone), $self->kept, $now) as $set) {
            $self->take($set);
        }
        $self->finish();

        return $self->signatures;
    }

    public static function signer(Zone $zone): ?ZoneSigner
    {
        $policy = $zone->policy;
        $keys = $zone->keys()->get()->filter(fn (ZoneKey $k): bool => $k->isIn());
        if ($policy === null || $keys->isEmpty()) {
            return null;
        }
        $signing = static fn (Collection $keys): array => array_values($keys->map(fn (ZoneKey $k): SigningKey => $k->signing())->all());
        $entries = $keys->filter(fn (ZoneKey $k): bool => $k->isEntry());

        return new ZoneSigner(
            $zone->origin(), $policy->denial, $policy->validityTimes(),
            array_values($keys->filter(fn (ZoneKey $k): bool => $k->isShown())->map(fn (ZoneKey $k) => $k->dnskey())->all()),
            $signing($entries), $signing(self::zoneSigners($keys)), $policy->key_ttl,
            // The newest entry is the one that the parent is asked for; none when the zone is on its way out of signing.
            $zone->unsign_asked !== null || $entries->isEmpty() ? [] : [$entries->last()->dnskey()],
        );
    }

    /**
     * @param  Collection<int, ZoneKey>  $keys  those that stand in the zone
     * @return Collection<int, ZoneKey> of each algorithm the newest that signs or is to sign with the next shipment
     */
    private static function zoneSigners(Collection $keys): Collection
    {
        $signs = $keys->filter(
            fn (ZoneKey $k): bool => $k->role->signsZone() && $k->retired === null
                && ($k->active !== null || $k->wants === KeyWish::Active),
        );

        return $signs->keyBy(static fn (ZoneKey $k): int => $k->algorithm->value)->values();
    }

    /** @return \Generator<int, Node> the zone's own records in canonical order, the SOA among them */
    public static function nodes(Zone $zone): \Generator
    {
        $apex = [new DnsRecord($zone->origin(), $zone->default_ttl, $zone->soa(Serial::of($zone->serial)))];
        $rows = Record::query()->where('zone_id', $zone->id)->orderBy('owner_key')->orderBy('type')->orderBy('data_hash');
        $at = $apex;
        foreach ($rows->lazy(5000) as $row) {
            $record = $row->toRecord($zone->default_ttl);
            if (! $record->owner->equals($at[0]->owner)) {
                yield Node::of($at);
                $at = [];
            }
            $at[] = $record;
        }
        yield Node::of($at);
    }

    /** When the steps of its keys may be taken. */
    public static function schedule(Zone $zone, int $now): ?KeySchedule
    {
        $policy = $zone->policy;
        if ($policy === null) {
            return null;
        }
        $held = static fn (string $kind, int $lag): int => ServedTtls::of($zone, $kind)->longest($now, $lag);

        return new KeySchedule(
            max($policy->key_ttl, $held(ServedTtls::KEYS, $policy->propagation)),
            max(self::longestTtl($zone), $held(ServedTtls::ZONE, $policy->propagation)),
            $policy->propagation,
            max($policy->ds_ttl, $held(ServedTtls::DS, $policy->parent_propagation)),
            $policy->parent_propagation, $policy->entry_life, $policy->zone_key_life, $zone->signed_since ?? $now,
        );
    }

    /** Kept until a record of the zone changes: a page that lists many zones reads none of their records. */
    public static function longestTtl(Zone $zone): int
    {
        $mark = DB::table('record_changes')->where('zone_id', $zone->id)->max('id');
        $own = Cache::remember(
            "longest-ttl-$zone->id-$mark",
            86400,
            static fn (): int => (int) Record::query()->where('zone_id', $zone->id)->max('ttl'),
        );

        return max(is_int($own) ? $own : 0, $zone->default_ttl, $zone->negative_ttl);
    }

    /** The zone of ours that delegates this one, in the same view. */
    public static function parentOf(Zone $zone): ?Zone
    {
        $above = $zone->origin()->parent();

        return $above === null ? null : Zones::closest($above, $zone->view_id);
    }

    /** Keys of the zone go; its signatures leave the servers with the next shipment. */
    public static function strip(Zone $zone): void
    {
        $zone->keys()->get()->each(static fn (ZoneKey $k) => $k->delete());
        $zone->fill(['policy_id' => null, 'signed_since' => null, 'unsign_asked' => null, 'unsign_seen' => null])->save();
        ServedTtls::unnamed($zone);
        Records::mark($zone);
    }

    /** What the last shipment brought is in force once every server has it. */
    public static function settle(Zone $zone, CarbonImmutable $at): void
    {
        $lags = ZoneServer::query()->where('zone_id', $zone->id)->where('planned', false)
            ->where(fn ($q) => $q->whereNull('verified_at')->orWhereNull('shipped_serial')->orWhere('shipped_serial', '!=', $zone->serial));
        if ($lags->exists() || self::isUnstamped($zone)) {
            return;
        }
        $now = $at->getTimestamp();
        ServedTtls::settled($zone, $now);
        if ($zone->policy_id === null) {
            return;
        }
        foreach ($zone->keys()->get() as $key) {
            $key->published ??= $key->isShown() ? $now : null;
            if ($key->wants === KeyWish::Active) {
                $replaced = $zone->keys()->where('role', $key->role->value)->where('algorithm', $key->algorithm->value)
                    ->whereKeyNot($key->id)->whereNotNull('active')->whereNull('retired');
                foreach ($replaced->get() as $before) {
                    $before->fill(['retired' => $now])->save();
                }
                $key->active ??= $now;
            } elseif ($key->wants === KeyWish::Shown) {
                $key->beside = false;
            } elseif ($key->wants === KeyWish::Withdrawn) {
                $key->beside = true;
                $key->withdrawn ??= $now;
            } elseif ($key->wants === KeyWish::Removed) {
                $key->removed ??= $now;
            }
            $key->wants = KeyWish::Nothing;
            $key->isDirty() ? $key->save() : null;
        }
        if ($zone->signed_since === null) {
            $zone->signed_since = $now;
            $zone->save();
        }
    }

    /** A change that waits for its serial is on no server yet. */
    private static function isUnstamped(Zone $zone): bool
    {
        return DB::table('record_changes')->where('zone_id', $zone->id)->whereNull('serial')->exists();
    }

    private function load(): void
    {
        foreach (DB::table('signed_records')->where('zone_id', $this->zone->id)->orderBy('id')->lazy(5000) as $row) {
            $this->left[(int) $row->id] = $row;
            if ($row->covers === null) {
                $this->made[self::line((string) $row->owner, (int) $row->ttl, (int) $row->type, (string) $row->data)] = (int) $row->id;
            } else {
                $key = KeptSignature::key(Name::parse((string) $row->owner), (int) $row->covers, (int) $row->tag, (int) $row->algorithm);
                $this->kept[$key] = new KeptSignature((int) $row->id, (string) $row->digest, (int) $row->expires);
            }
        }
    }

    private function take(SignedSet $set): void
    {
        foreach ($set->stay as $kept) {
            unset($this->left[(int) $kept->id]);
        }
        foreach ($set->made ? $set->set->records : [] as $record) {
            $id = $this->made[self::line(self::owner($record), $record->ttl, $record->type()->number, $record->data->text())] ?? null;
            if ($id !== null) {
                unset($this->left[$id]);
            } else {
                $this->add($record);
            }
        }
        foreach ($set->fresh as $record) {
            $this->signatures++;
            $this->add($record, $set->digest);
        }
    }

    private function add(DnsRecord $record, ?string $digest = null): void
    {
        $rrsig = $record->data instanceof Rrsig ? $record->data : null;
        $this->rows[] = [
            'zone_id' => $this->zone->id, 'owner' => self::owner($record), 'owner_key' => $record->owner->sortKey(),
            'type' => $record->type()->number, 'ttl' => $record->ttl, 'data' => $record->data->text(), 'covers' => $rrsig?->covered->number,
            'tag' => $rrsig?->keyTag, 'algorithm' => $rrsig?->algorithm, 'digest' => $digest, 'expires' => $rrsig?->expiration,
        ];
        $this->change('+', self::owner($record), $record->ttl, $record->type()->number, $record->data->text());
        if (count($this->rows) >= self::PART) {
            $this->write();
        }
    }

    private function finish(): void
    {
        $this->write();
        foreach (array_chunk(array_keys($this->left), self::PART) as $ids) {
            foreach ($ids as $id) {
                $row = $this->left[$id];
                $this->change('-', (string) $row->owner, (int) $row->ttl, (int) $row->type, (string) $row->data);
            }
            DB::table('signed_records')->whereIn('id', $ids)->delete();
            $this->write();
        }
    }

    private function change(string $op, string $owner, int $ttl, int $type, string $data): void
    {
        $this->journal[] = [
            'zone_id' => $this->zone->id, 'op' => $op, 'owner' => $owner, 'type' => $type, 'ttl' => $ttl, 'data' => $data,
            'serial' => $this->zone->serial,
        ];
    }

    private function write(): void
    {
        Bulk::insert('signed_records', $this->rows);
        Bulk::insert('record_changes', $this->journal);
        $this->rows = $this->journal = [];
    }

    private static function owner(DnsRecord $record): string
    {
        return (string) $record->owner->lower();
    }

    private static function line(string $owner, int $ttl, int $type, string $data): string
    {
        return "$owner $ttl $type $data";
    }
}
