<?php

declare(strict_types=1);

namespace App\Serving;

use App\Links\Names\ZoneTerms;
use App\Models\Part;
use App\Models\Server;
use App\Models\Speaks;
use App\Models\TransferKey;
use App\Models\View;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Queries\HandedOutZones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Serial;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Opcode;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Wire\TsigKey;
use HarborPost\Core\Dns\Zone\Catalog;
use Illuminate\Support\Facades\DB;

/**
 * Who copies from here is told when there is something new (RFC 1996), and told again until it answers, five times. A notice that gets lost
 * costs no more than the refresh time of the zone.
 */
final class Notices
{
    private const TRIES = 5;

    /** Seconds until the second try; twice as long until each one after (RFC 1996 §3.6). */
    private const AGAIN = 4;

    /** @var array<string, int> zone, or "catalog VIEW" → the serial that was told */
    private array $told = [];

    /** @var array<string, array{endpoint: string, zone: string, bytes: string, tries: int, due: int}> id and endpoint → what waits */
    private array $waiting = [];

    /** @var array<string, TsigKey> */
    private array $keys = [];

    /** Given at once: a start with ten thousand zones is no storm. */
    private const AT_ONCE = 200;

    /**
     * Looks for what is new, and gives what is due.
     *
     * @return list<array{string, string}> endpoint and message
     */
    public function due(Server $server, int $now): array
    {
        $this->look($server, $now);
        $out = [];
        foreach ($this->waiting as $key => $one) {
            if (count($out) >= self::AT_ONCE) {
                break;
            }
            if ($one['due'] > $now) {
                continue;
            }
            if ($one['tries'] >= self::TRIES) {
                unset($this->waiting[$key]);

                continue;
            }
            $this->waiting[$key]['tries']++;
            $this->waiting[$key]['due'] = $now + self::AGAIN * 2 ** $one['tries'];
            $out[] = [$one['endpoint'], $one['bytes']];
        }

        return $out;
    }

    /** An answer came: whatever it says, the notice was heard. */
    public function heard(string $packet, string $endpoint): void
    {
        if (strlen($packet) >= 12 && (ord($packet[2]) & 0x80) !== 0) {
            unset($this->waiting[bin2hex(substr($packet, 0, 2))." $endpoint"]);
        }
    }

    private function look(Server $server, int $now): void
    {
        $serials = HandedOutZones::serials($server);
        $this->keys = TransferKey::query()->get()->mapWithKeys(static fn (TransferKey $k): array => [$k->name => $k->tsig()])->all();
        foreach (array_chunk(array_keys(array_diff_assoc($serials, $this->told)), 500) as $ids) {
            $zones = Zone::query()->with(['view', 'placements.server'])->whereIn('id', $ids)->get();
            foreach ($zones as $zone) {
                foreach ($zone->placements->where('part', Part::Secondary) as $placement) {
                    $this->add($zone->origin(), self::soa($zone, $serials[$zone->id]), $placement->server->endpoint, $zone, $now);
                }
            }
        }
        $catalogs = $server->catalog === null ? [] : DB::table('served_catalogs')->where('server_id', $server->id)
            ->whereIn('view_id', HandedOutZones::views($server))->pluck('serial', 'view_id')->all();
        $told = [];
        foreach ($catalogs as $view => $serial) {
            $told["catalog $view"] = (int) $serial;
            if (($this->told["catalog $view"] ?? null) !== (int) $serial) {
                $this->catalog($server, (string) $view, (int) $serial, $now);
            }
        }
        $this->told = $serials + $told;
    }

    private static function soa(Zone $zone, int $serial): Record
    {
        return new Record($zone->origin(), $zone->default_ttl, $zone->soa(Serial::of($serial)));
    }

    /** Servers that are brought to the plan have no use for a list. */
    private function catalog(Server $server, string $id, int $serial, int $now): void
    {
        $view = View::query()->find($id);
        $name = $view === null ? null : $server->catalogOf($view);
        $readers = ZoneServer::query()->with(['server', 'zone.placements.server'])->where('part', Part::Secondary)
            ->whereHas('zone', static fn ($q) => $q->where('view_id', $id))
            ->whereHas('server', static fn ($q) => $q->where('speaks', Speaks::Standard))->get()->unique('server_id');
        if ($name === null) {
            return;
        }
        foreach ($readers as $placement) {
            $soa = (new Catalog($name, Serial::of($serial)))->soa();
            $this->add($name, $soa, $placement->server->endpoint, $placement->zone, $now);
        }
    }

    /** @param  Zone  $zone  by whose key it is signed */
    private function add(Name $name, Record $soa, string $endpoint, Zone $zone, int $now): void
    {
        $id = random_int(0, 0xFFFF);
        $message = new Message(
            $id,
            opcode: Opcode::Notify,
            authoritative: true,
            questions: [new Question($name, RecordType::of(RecordType::SOA))],
            answers: [$soa],
        );
        $key = $this->keys[ZoneTerms::transferKey($zone) ?? ''] ?? null;
        foreach ($this->waiting as $old => $one) {
            if ($one['endpoint'] === $endpoint && $one['zone'] === (string) $name) {
                unset($this->waiting[$old]);
            }
        }
        $this->waiting[bin2hex(pack('n', $id))." $endpoint"] = [
            'endpoint' => $endpoint, 'zone' => (string) $name,
            'bytes' => $key === null ? $message->wire() : Tsig::sign($message->wire(), $key, $now)[0], 'tries' => 0, 'due' => $now,
        ];
    }
}
