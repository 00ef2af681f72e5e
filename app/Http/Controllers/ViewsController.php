<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\DnsClient;
use App\Links\Unanswered;
use App\Models\Record;
use App\Models\View as DnsView;
use App\Models\Zone;
use App\Queries\ResolverPath;
use App\Queries\ViewDifference;
use App\Queries\Zones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** Split answers: which client falls into which view, what it is told, and how a zone differs from view to view. */
final class ViewsController extends Controller
{
    public function __invoke(Request $request): View
    {
        $this->wholeOnly();
        $views = DnsView::query()->orderBy('position')->get();
        $split = Zone::query()->groupBy('name')->havingRaw('COUNT(*) > 1')->orderBy('name')->limit(200)->pluck('name')->map(fn (string $n): string => rtrim($n, '.'))->all();
        $name = strtolower(rtrim($request->string('zone', $split[0] ?? '')->toString(), '.')).'.';
        $zones = Zone::query()->with('view')->where('name', $name)->get()->sortBy(fn (Zone $z): int => $z->view->position)->values();
        $left = $zones->firstWhere('view_id', $request->string('left')->toString()) ?? $zones[0] ?? null;
        $right = $zones->firstWhere('view_id', $request->string('right')->toString()) ?? $zones->first(fn (Zone $z): bool => $z->id !== $left?->id);

        return view('name.views', [
            'views' => $views, 'counts' => Zone::query()->groupBy('view_id')->selectRaw('view_id, COUNT(*) as n')->pluck('n', 'view_id'), 'split' => $split, 'zones' => $zones, 'left' => $left, 'right' => $right, 'all' => $request->boolean('all'),
            'difference' => $left !== null && $right !== null ? ViewDifference::of($left, $right, $request->boolean('all')) : null, 'may' => $this->person()->operatesAll(), 'told' => $this->told($request),
        ]);
    }

    /** @return array{client: string, name: string, view: ?DnsView, by: string, planned: list<string>, answered: list<string>, server: string}|null what a client would be told by the plan, and is told by a packet */
    private function told(Request $request): ?array
    {
        $client = Address::tryParse($request->string('client')->toString());
        if ($client === null) {
            return $request->filled('client') ? ['client' => $request->string('client')->toString(), 'name' => '', 'view' => null, 'by' => 'that is no address', 'planned' => [], 'answered' => [], 'server' => ''] : null;
        }
        $view = ResolverPath::viewOf($client);
        $by = collect($view->clients ?? [])->first(fn (string $p): bool => \HarborPost\Core\Net\Prefix::tryParse($p)?->contains($client) === true);
        $name = Name::tryParse(rtrim($request->string('name')->toString(), '.').'.');
        $planned = $answered = [];
        $server = '';
        $zone = $name === null || $view === null || $name->isRoot() ? null : Zones::closest($name, $view->id);
        if ($zone !== null && $zone->view_id === $view?->id && $name !== null) {
            $planned = array_values(Record::query()->where('zone_id', $zone->id)->where('owner_key', $name->sortKey())->orderBy('type')->limit(20)->get()->map(fn (Record $r): string => "{$r->typeName()} $r->data")->all());
            $holder = Zone::query()->with('placements.server')->find($zone->id)?->primaryPlacement()?->server;
            $server = $holder->name ?? '';
            try {
                foreach ($holder === null ? [] : [RecordType::A, RecordType::AAAA, RecordType::CNAME, RecordType::MX] as $type) {
                    foreach ((new DnsClient($holder->name, $holder->endpoint, 1.0))->ask($name, RecordType::of($type), $client, false)->message->answers as $record) {
                        $answered["{$record->type()} {$record->data->text()}"] = true;
                    }
                }
            } catch (Unanswered $e) {
                $answered[$e->getMessage()] = true;
            }
        }

        return ['client' => (string) $client, 'name' => rtrim((string) $name, '.'), 'view' => $view, 'by' => $by ?? 'the first view, as none holds it', 'planned' => $planned, 'answered' => array_keys($answered), 'server' => $server];
    }
}
