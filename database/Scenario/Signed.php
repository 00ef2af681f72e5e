<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\ChangeResolving;
use App\Acts\Sign\HandAnchor;
use App\Acts\Sign\KeepPolicy;
use App\Acts\Sign\RollKey;
use App\Acts\Sign\SignZone;
use App\Links\ControlChannel;
use App\Models\Server;
use App\Models\Zone;
use App\Models\ZoneKey;
use App\Shipping\KeepSigned;
use App\Shipping\Shipping;
use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Dnssec\Node;
use HarborPost\Core\Dns\Dnssec\Signatures;
use HarborPost\Core\Dns\Dnssec\SigningKey;
use HarborPost\Core\Dns\Dnssec\Validity;
use HarborPost\Core\Dns\Dnssec\ZoneSigner;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\Nsec;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Rdata\Rrsig;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;

/**
 * Two zones that have been signed for weeks, one in the other, a key that is being replaced, an anchor on one resolver; and a zone outside
 * in which each name is wrong in its own way.
 */
final readonly class Signed
{
    private const DAY = 86400;

    public function __construct(private Kittiwake $k, private KeepSigned $keep)
    {
    }

    /** When the servers run. */
    public function live(Shipping $shipping): void
    {
        $policy = $this->k->id('policy sound');
        $this->k->do(
            new KeepPolicy('sound', $policy, zoneKeyLife: '90d', description: 'for all zones on shore'),
            new KeepPolicy('for long lists', $this->k->id('policy lists'), denial: 'nsec3', keys: 'one', zoneKeyLife: '0'),
        );
        $zones = [];
        foreach (['kittiwake.example shore', 'ops.kittiwake.example shore'] as $name) {
            $zones[] = $this->k->id("zone $name");
            $this->k->do(new SignZone($this->k->id("zone $name"), $policy));
            $this->keep->one($this->zone($this->k->id("zone $name")));
        }
        // The demo begins some weeks after that.
        $this->longAgo($zones, ['published', 'active'], 40);
        $this->keep->all();
        $this->keep->all();
        $this->longAgo($zones, ['ds_asked', 'ds_seen'], 38);
        $zsk = ZoneKey::query()->where('zone_id', $zones[1])->where('role', 'zsk')->firstOrFail();
        $this->k->do(new RollKey($zsk->id));
        $this->keep->all();
        DB::table('zone_keys')->where('zone_id', $zones[1])->where('role', 'zsk')->where('id', '!=', $zsk->id)
            ->update(['published' => time() - 3000]);
        $anchored = Server::query()->where('name', 'lamp3')->firstOrFail();
        $this->k->do(new HandAnchor($zones[0], [$anchored->id]));
        $this->wrong($anchored->refresh());
        $shipping->ship(null, $anchored->refresh(), ['resolving']);
    }

    private function zone(string $id): Zone
    {
        return Zone::query()->with(['view', 'policy'])->findOrFail($id);
    }

    /**
     * @param  list<string>  $zones
     * @param  list<string>  $columns
     */
    private function longAgo(array $zones, array $columns, int $days): void
    {
        $then = time() - $days * self::DAY;
        foreach ($columns as $column) {
            DB::table('zone_keys')->whereIn('zone_id', $zones)->whereNotNull($column)->update([$column => $then, 'made' => $then - 600]);
        }
        DB::table('zones')->whereIn('id', $zones)->whereNotNull('signed_since')->where('signed_since', '>', $then)
            ->update(['signed_since' => $then]);
    }

    /** trial.example on the roots' stand-in, its anchor beside the others. */
    private function wrong(Server $resolver): void
    {
        [$key, $other] = [SigningKey::make(Algorithm::EcdsaP256, true, ''), SigningKey::make(Algorithm::EcdsaP256, true, '')];
        $names = ['good', 'expired', 'early', 'wrong-key', 'no-signature', 'no-denial'];
        $records = array_map(static fn (string $n): Record => self::record("$n.trial.example. 300 A 192.0.2.90"), $names);
        $records[] = self::record('trial.example. 300 SOA a.root-quay.example.net. hostmaster.example. 1 7200 900 1209600 300');
        foreach (['trial', 'wrong-ds.trial', 'revoked.trial'] as $zone) {
            $records[] = self::record("$zone.example. 300 NS a.root-quay.example.net.");
        }
        $records[] = self::record("wrong-ds.trial.example. 300 DS {$other->ds(Name::parse('wrong-ds.trial.example.'))->text()}");
        $revoked = Dnskey::fromText(Fields::ofLine(
            (Dnskey::ZONE | Dnskey::SEP | Dnskey::REVOKED).' 3 13 '.base64_encode($key->public->publicKey()),
        ));
        $records[] = self::record(
            'revoked.trial.example. 300 DS '.SigningKey::dsOf(Name::parse('revoked.trial.example.'), $revoked)->text(),
        );
        $signed = [];
        foreach ($this->signed('trial.example.', $records, $key, [$key->public]) as $record) {
            $signed = [...$signed, ...self::broken($record, $key, $other)];
        }
        $this->serve('trial.example.', $signed);
        foreach (['wrong-ds' => [$key->public], 'revoked' => [$revoked]] as $label => $keys) {
            $zone = "$label.trial.example.";
            $own = [
                self::record("$zone 300 SOA a.root-quay.example.net. hostmaster.example. 1 7200 900 1209600 300"),
                self::record("$zone 300 NS a.root-quay.example.net."), self::record("www.$zone 300 A 192.0.2.91"),
            ];
            $this->serve($zone, iterator_to_array($this->signed($zone, $own, $key, $keys), false));
        }
        $channel = new ControlChannel(Server::query()->where('name', 'root1')->firstOrFail(), 5.0);
        $channel->ask('apply', [
            'view' => 'all', 'zone' => 'example.', 'from' => 1, 'remove' => [
                'example. 3600 SOA a.root-quay.example.net. hostmaster.root-quay.example.net. 1 7200 900 1209600 300',
            ],
            'add' => [
                'example. 3600 SOA a.root-quay.example.net. hostmaster.root-quay.example.net. 2 7200 900 1209600 300',
                'trial.example. 300 NS a.root-quay.example.net.',
            ],
        ]);
        $anchors = [...($resolver->resolving['anchors'] ?? []), "trial.example. DS {$key->ds(Name::parse('trial.example.'))->text()}"];
        $this->k->do(ChangeResolving::fromInput(['servers' => [$resolver->id], 'anchors' => implode("\n", $anchors)]));
    }

    /**
     * @param  list<Record>  $records
     * @param  list<Dnskey>  $published
     * @return \Generator<int, Record>
     */
    private function signed(string $zone, array $records, SigningKey $key, array $published): \Generator
    {
        yield from $records;
        $signer = new ZoneSigner(Name::parse($zone), Denial::Names, new Validity(300 * self::DAY, 1, 0), $published, [$key], [$key], 300);
        foreach ($signer->sign(Node::all($records), [], time()) as $set) {
            yield from $set->made ? $set->set->records : [];
            yield from $set->fresh;
        }
    }

    /** @return list<Record> the record, or what stands in its place */
    private static function broken(Record $record, SigningKey $key, SigningKey $other): array
    {
        $label = $record->owner->labels()[0];
        if ($record->data instanceof Nsec && in_array($label, ['no-denial', 'no-signature'], true)) {
            // The chain is torn around the name that is not there.
            return $label === 'no-denial' ? [] : [$record];
        }
        if (! $record->data instanceof Rrsig || $record->data->covered->number !== RecordType::A) {
            return [$record];
        }
        $set = RecordSet::of([self::record("$label.trial.example. 300 A 192.0.2.90")]);
        $zone = Name::parse('trial.example.');
        $now = time();

        return match ($label) {
            'expired' => [Signatures::make($set, $key, $zone, $now - 30 * self::DAY, $now - self::DAY)],
            'early' => [Signatures::make($set, $key, $zone, $now + 400 * self::DAY, $now + 500 * self::DAY)],
            'wrong-key' => [Signatures::make($set, $other, $zone, $now - 3600, $now + 300 * self::DAY)],
            'no-signature' => [],
            default => [$record],
        };
    }

    /** @param  list<Record>  $records */
    private function serve(string $zone, array $records): void
    {
        $channel = new ControlChannel(Server::query()->where('name', 'root1')->firstOrFail(), 5.0);
        $lines = array_map(static fn (Record $r): string => "{$r->owner->lower()} $r->ttl {$r->type()} {$r->data->text()}", $records);
        $channel->ask('apply', ['view' => 'all', 'zone' => $zone, 'from' => null, 'first' => true, 'add' => $lines], once: true);
    }

    private static function record(string $line): Record
    {
        [$owner, $ttl, $type, $data] = explode(' ', $line, 4);

        return new Record(Name::parse($owner), (int) $ttl, RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($data)));
    }
}
