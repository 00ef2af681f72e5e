<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\Unanswered;
use App\Live\ParentLook;
use App\Live\TrustChain;
use App\Live\WrongOnPurpose;
use App\Live\ZoneSigned;
use App\Models\Power;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\SigningPolicy;
use App\Models\Zone;
use App\Models\ZoneKey;
use App\Queries\WhoValidates;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Zones that are signed: keys over time, policies, who validates. */
final class SigningController extends Controller
{
    private const ROWS = 500;

    public function index(Request $request): View
    {
        $this->wholeOnly();
        $signed = Zone::query()->with(['view', 'policy', 'keys'])->whereNotNull('policy_id')->orderBy('name')->limit(self::ROWS)->get()
            ->map(static fn (Zone $z): ZoneSigned => ZoneSigned::of($z));
        $servers = Server::answering(ServerKind::naming())->orderBy('name')->get();

        return view('name.signing', [
            'signed' => $signed->sortBy(static fn (ZoneSigned $s): int => $s->first()[1] ?? PHP_INT_MAX)->values(),
            'ends' => DB::table('signed_records')->whereIn('zone_id', $signed->map(static fn (ZoneSigned $s): string => $s->zone->id))
                ->groupBy('zone_id')->selectRaw('zone_id, MIN(expires) AS first')->pluck('first', 'zone_id'),
            'policies' => SigningPolicy::query()->orderBy('name')->get(), 'may' => $this->works(Power::Keys),
            'used' => Zone::query()->whereNotNull('policy_id')->groupBy('policy_id')->selectRaw('policy_id, COUNT(*) AS n')
                ->pluck('n', 'policy_id'),
            'edit' => SigningPolicy::query()->find($request->string('policy')->toString()),
            'resolvers' => $servers, 'clients' => WhoValidates::everywhere(), 'trial' => (string) config('harbor.trial'),
        ]);
    }

    public function zone(Request $request, string $zone): View
    {
        $row = $this->zoneOf($zone);
        $signed = ZoneSigned::of($row);

        return view('name.zone-signing', [
            'zone' => $row, 'signed' => $signed, 'census' => $row->policy_id === null ? null : $signed->census(),
            'policies' => SigningPolicy::query()->orderBy('name')->pluck('name', 'id')->all(), 'may' => $this->works(Power::Keys),
            'others' => $this->ofOtherAlgorithms($row),
            'resolvers' => Server::answering(ServerKind::naming())->orderBy('name')->get(),
            'name' => $request->string('name', $row->title())->toString(),
            'unlike' => $this->reach()->zones()->with('view')->where('zones.name', $row->name)->whereKeyNot($row->id)
                ->when($row->policy_id === null, fn ($q) => $q->whereNotNull('policy_id'), fn ($q) => $q->whereNull('policy_id'))->get(),
        ]);
    }

    /** @return array<string, string> policies by whose algorithm the zone is not signed, with the algorithm */
    private function ofOtherAlgorithms(Zone $zone): array
    {
        $now = $zone->policy?->algorithm;

        return $now === null ? [] : SigningPolicy::query()->where('algorithm', '!=', $now->value)->orderBy('name')->get()
            ->mapWithKeys(static fn (SigningPolicy $p): array => [$p->id => "$p->name, {$p->algorithm->mnemonic()}"])->all();
    }

    /** What the servers of the parent say of the zone's keys, by packets. */
    public function parent(string $zone): View
    {
        $row = $this->zoneOf($zone);

        return view('name.signing-parent', ['zone' => $row, 'look' => ParentLook::of($row)]);
    }

    /** The chain of trust to a name, through the answers of one server. */
    public function chain(Request $request, string $zone): View
    {
        $row = $this->zoneOf($zone);
        $chain = $problem = null;
        try {
            $name = Name::parse(rtrim($request->string('name', $row->name)->toString(), '.').'.');
            $server = self::asked($request);
            $anchors = TrustChain::anchorsOf($server);
            // A server that holds no anchor of its own is judged by the zone's own keys.
            $anchors = $anchors !== [] ? $anchors : self::ownAnchors($row);
            $chain = TrustChain::of(
                $server,
                $name,
                RecordType::parse($request->string('type', 'SOA')->toString()),
                $anchors,
                $row->clientInView(),
            );
        } catch (Malformed|Unanswered $e) {
            $problem = $e->getMessage();
        }

        return view('name.signing-chain', ['zone' => $row, 'chain' => $chain, 'problem' => $problem]);
    }

    /** What a resolver makes of names that are wrong on purpose, where there is a zone of such names. */
    public function trial(Request $request): View
    {
        $this->wholeOnly();
        $zone = (string) config('harbor.trial');
        $server = self::asked($request);

        return view('name.signing-trial', ['server' => $server, 'rows' => $zone === '' ? [] : WrongOnPurpose::at($server, $zone)]);
    }

    private static function asked(Request $request): Server
    {
        $servers = Server::answering(ServerKind::naming())->orderBy('name')->get();

        return $servers->firstWhere('id', $request->string('server')->toString()) ?? $servers->first() ?? abort(404);
    }

    /** @return list<Record> */
    private static function ownAnchors(Zone $zone): array
    {
        return array_values($zone->keys()->get()->filter(static fn (ZoneKey $k): bool => $k->isEntry())
            ->map(static fn (ZoneKey $k): Record => new Record($zone->origin(), 0, $k->dnskey()))->all());
    }

    private function zoneOf(string $id): Zone
    {
        $this->wholeOnly();

        return $this->reach()->zones()->with(['view', 'policy', 'placements.server'])->findOrFail($id);
    }
}
