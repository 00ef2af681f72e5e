<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Directory\NoteAccess;
use App\Acts\Engine\Acts;
use App\Acts\Imports\StartImport;
use App\Acts\Name\MakeZone;
use App\Http\Sure;
use App\Imports\ImportFile;
use App\Jobs\ReadImport;
use App\Links\Links;
use App\Links\Names\DnsClient;
use App\Links\Names\NameLink;
use App\Links\Unanswered;
use App\Live\ZoneService;
use App\Models\Power;
use App\Models\Record;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\TransferKey;
use App\Models\View as DnsView;
use App\Models\Zone;
use App\Queries\Choices;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Crypt;

/**
 * How zones are served: their secondaries, who copies and updates them, what clients registered, and zones that are taken in from
 * elsewhere.
 */
final class ServiceController extends Controller
{
    public function __construct(private readonly Acts $acts)
    {
    }

    public function show(string $zone): View
    {
        $row = $this->zone($zone);
        $service = ZoneService::of($row);
        $registered = Record::query()->where('zone_id', $row->id)->whereNotNull('renewed_at')->orderBy('renewed_at')->limit(200)->get();
        $renewals = $row->lapse_after !== null || $row->update_mode !== 'refused' ? $service->renewals() : [];
        asort($renewals);

        return view('name.service', [
            'zone' => $row, 'service' => $service, 'servers' => $service->servers(), 'renewals' => array_slice($renewals, 0, 200),
            'registered' => $registered, 'faults' => $service->lapseFaults(), 'may' => $this->works(Power::NameService),
            'others' => Server::answering([ServerKind::Dns])->whereNotIn('id', $row->placements->pluck('server_id'))
                ->orderBy('name')->pluck('name', 'id')->all(),
            'keys' => TransferKey::query()->orderBy('name')->get(),
            'leaseTime' => (int) \App\Models\Scope::query()->where('lease_time', '<', \App\Models\Scope::INFINITE)->max('lease_time'),
        ]);
    }

    /** Tells a secondary to ask its primary now. */
    public function fetch(string $zone, string $server): RedirectResponse
    {
        $row = $this->zone($zone);
        abort_unless($this->works(Power::NameService), 403);
        $link = Links::to($row->placements->firstWhere('server_id', $server)->server ?? abort(404));
        try {
            $link instanceof NameLink ? $link->fetch($row) : null;
            usleep(300_000);
        } catch (Unanswered $e) {
            return back()->with('bad', $e->getMessage());
        }

        return back()->with('done', 'Told to ask its primary; the table says what came of it.');
    }

    public function keys(): View
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::NameService), 403);
        $used = [];
        foreach (
            Zone::query()->where(fn ($q) => $q->whereNotNull('transfer')->orWhereNotNull('update_from'))
                ->orderBy('name')->lazy(500) as $zone
        ) {
            foreach (array_unique([...($zone->transfer ?? []), ...($zone->update_from ?? [])]) as $entry) {
                str_starts_with($entry, 'key ') ? $used[substr($entry, 4)][] = $zone : null;
            }
        }

        return view('name.keys', [
            'keys' => TransferKey::query()->orderBy('name')->get(), 'used' => $used,
            'sure' => Sure::is(request()),
            'servers' => Server::query()->whereNotNull('key_id')->orderBy('name')->get()->groupBy('key_id'),
        ]);
    }

    /** The secret, for the one who has to set it at the other end; asked for by name, never part of a list. */
    public function secret(string $key): RedirectResponse
    {
        abort_unless($this->works(Power::NameService), 403);
        $row = TransferKey::query()->findOrFail($key);
        $password = request()->string('sure')->toString();
        if (! Sure::by(request(), $this->person(), $password)) {
            return redirect(at('name.keys'))->with('bad', $password === '' ? Sure::ASKED : Sure::WRONG);
        }
        $this->acts->commit(
            $this->person(),
            [new NoteAccess('secret shown', TransferKey::noun(), $row->id, $row->title(), (string) request()->ip())],
        );
        session()->flash('secret', [$row->id, Crypt::encryptString($row->secret)]);

        return redirect(at('name.keys'))->withHeaders(['Cache-Control' => 'no-store']);
    }

    public function takeInForm(Request $request): View
    {
        $this->wholeOnly();

        return view(
            'name.take-in',
            [
                'choices' => new Choices($this->reach()),
                'keys' => TransferKey::query()->orderBy('name')->get()
                    ->mapWithKeys(fn (TransferKey $k): array => [$k->id => $k->title()])->all(),
                'may' => $this->works(Power::NameService),
                'problem' => session('problem'),
            ],
        );
    }

    /** A zone is copied by AXFR from any server that lets it, and stands as an import to look at. */
    public function takeIn(Request $request): RedirectResponse
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::NameService), 403);
        $server = Server::answering(ServerKind::naming())->find($request->string('server')->toString());
        $view = DnsView::query()->find($request->string('view')->toString());
        $key = TransferKey::query()->find($request->string('key')->toString());
        if ($server === null || $view === null) {
            return back()->withInput()->with('problem', 'Choose a server and a view.');
        }
        try {
            $origin = Name::parse(rtrim(trim($request->string('name')->toString()), '.').'.')->lower();
            $zone = new Zone(['view_id' => $view->id]);
            $zone->setRelation('view', $view);
            $client = new DnsClient($server->name, $server->endpoint, (float) config('harbor.patience'), $key?->tsig());
            $path = ImportFile::fresh();
            $file = fopen($path, 'w') ?: throw new \DomainException('The file cannot be written.');
            foreach ($client->transfer($origin, $zone->clientInView()) as $record) {
                fwrite($file, "$record\n");
            }
            fclose($file);
        } catch (Malformed|Unanswered|\DomainException $e) {
            return back()->withInput()->with('problem', $e->getMessage());
        }
        $row = Zone::query()->where('name', (string) $origin)->where('view_id', $view->id)->first();
        $make = $row === null
            ? MakeZone::fromInput([
                'name' => (string) $origin,
                'view' => $view->id,
                'servers' => $this->reach()->isWhole() ? Server::usualForZones() : [],
            ])
            : null;
        $start = StartImport::fromInput([
            'kind' => 'zone', 'target' => $row->id ?? $make->id ?? '', 'fileName' => rtrim((string) $origin, '.')." from $server->name",
            'path' => $path,
        ]);
        ImportFile::keep($start->id, $path);
        $outcome = $this->acts->commit(
            $this->person(),
            [...($make === null ? [] : [$make]), $start],
            reason: "made to take the zone in from $server->name",
        );
        ImportFile::forget($path);
        if ($outcome->blocked()) {
            ImportFile::drop($start->id);

            return back()->withInput()->with('problem', $outcome->block()->message ?? $outcome->trouble);
        }
        ReadImport::dispatch($start->id);

        return redirect(at('import.one', $start->id));
    }

    private function zone(string $zone): Zone
    {
        $this->wholeOnly();

        return Zone::query()->with(['view', 'placements.server'])->findOrFail($zone);
    }
}
