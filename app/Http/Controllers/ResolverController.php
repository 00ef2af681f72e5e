<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\DnsClient;
use App\Links\Unanswered;
use App\Models\Prefix;
use App\Models\Server;
use App\Queries\Inherited;
use App\Queries\ResolverPath;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\RootHints;
use HarborPost\Core\Net\Address;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** How names outside our zones are found: each server's settings, the path of a question, root hints. */
final class ResolverController extends Controller
{
    public function index(Request $request): View
    {
        $this->wholeOnly();
        $servers = ResolverPath::servers();
        $client = Address::tryParse($request->string('client')->toString());
        $given = array_values(array_filter(preg_split('/[\s,]+/', $request->string('resolvers')->toString()) ?: [], fn (string $a): bool => Address::tryParse($a) !== null));
        $resolvers = $given !== [] ? $given : self::resolversOf($client);
        $name = Name::tryParse(rtrim($request->string('name', 'www.example.net')->toString(), '.').'.');
        $off = array_values(array_filter((array) $request->input('off', []), is_string(...)));
        $path = $name === null ? null : ResolverPath::computed($name, $resolvers, $client, $off);

        return view('name.resolvers', ['servers' => $servers, 'client' => $client, 'resolvers' => $resolvers, 'name' => $name, 'off' => $off, 'path' => $path, 'observed' => null, 'given' => self::given(), 'may' => $this->person()->operatesAll(), 'typed' => $given !== []]);
    }

    /** The same question asked for real. */
    public function observe(Request $request): View
    {
        $this->wholeOnly();
        abort_unless($this->person()->operatesAll(), 403);
        $page = $this->index($request);
        $data = $page->getData();

        return $data['name'] instanceof Name ? $page->with('observed', ResolverPath::observed($data['name'], $data['resolvers'], $data['client'], $data['off'])) : $page;
    }

    public function hints(Request $request, string $server): View
    {
        $this->wholeOnly();
        $row = Server::query()->whereIn('kind', ['dns', 'resolver'])->findOrFail($server);
        $own = RootHints::ofRows($row->resolving['hints'] ?? []);
        $primed = $problem = null;
        if ($request->boolean('prime')) {
            [$primed, $problem] = self::prime($own);
        }

        return view('name.hints', ['server' => $row, 'own' => $own, 'primed' => $primed, 'problem' => $problem, 'difference' => $primed === null ? null : $own->against($primed), 'may' => $this->person()->operatesAll()]);
    }

    public function hintsFile(string $server): Response
    {
        $this->wholeOnly();
        $row = Server::query()->whereIn('kind', ['dns', 'resolver'])->findOrFail($server);

        return response(RootHints::ofRows($row->resolving['hints'] ?? [])->text(), 200, ['Content-Type' => 'text/dns; charset=utf-8', 'Content-Disposition' => "attachment; filename=\"$row->name.hints\""]);
    }

    /** @return array{?RootHints, ?string} what a root server answers to a priming query (RFC 9609 §3) */
    private static function prime(RootHints $hints): array
    {
        $problem = 'There is no root hint to ask.';
        foreach (Server::query()->where('kind', 'roots')->get() as $root) {
            if ($hints->servers !== [] && ! in_array((string) $root->address, $hints->addresses(), true)) {
                continue;
            }
            try {
                $answer = (new DnsClient($root->name, $root->endpoint, (float) config('harbor.patience')))->ask(Name::root(), RecordType::of(RecordType::NS), null, false)->message;

                return [RootHints::of([...$answer->answers, ...$answer->additional]), null];
            } catch (Malformed|Unanswered $e) {
                $problem = $e->getMessage();
            }
        }

        return [null, $problem];
    }

    /** @return list<array{label: string, link: string, resolvers: list<string>, search: list<string>, origin: string}> what sites, and scopes with values of their own, hand to clients */
    private static function given(): array
    {
        $rows = [];
        $inherited = app(Inherited::class);
        foreach (\App\Models\Site::query()->orderBy('name')->limit(100)->get() as $site) {
            $of = $inherited->ofSite($site->id);
            $rows[] = ['label' => $site->name, 'link' => "/directory/site/$site->id", 'resolvers' => $of['resolvers']['value'], 'search' => $of['search']['value'], 'origin' => $of['resolvers']['origin']['label'] ?? 'nobody'];
        }
        $own = \App\Models\OptionValue::query()->where('layer', 'scope')->whereIn('code', [\HarborPost\Core\Dhcp\Option\OptionTable::NAME_SERVERS, \HarborPost\Core\Dhcp\Option\OptionTable::SEARCH])->limit(200)->get()->groupBy('layer_id');
        foreach (\App\Models\Scope::query()->whereIn('id', $own->keys())->orderBy('name')->get() as $scope) {
            $values = $own[$scope->id]->pluck('values', 'code');
            $rows[] = ['label' => "scope $scope->name", 'link' => "/lease/scope/$scope->id", 'resolvers' => $values[\HarborPost\Core\Dhcp\Option\OptionTable::NAME_SERVERS] ?? [], 'search' => $values[\HarborPost\Core\Dhcp\Option\OptionTable::SEARCH] ?? [], 'origin' => 'its own option'];
        }

        return $rows;
    }

    /** @return list<string> the resolvers that a client at an address is given: by its scope, else by the settings that reach its subnet */
    public static function resolversOf(?Address $client): array
    {
        $subnet = $client === null ? null : Prefix::query()->where('kind', 'subnet')->where('family', $client->family->value)->where('first', '<=', $client->bytes)->orderByDesc('first')->limit(8)->get()->first(fn (Prefix $p): bool => $p->prefix()->contains($client));
        if ($subnet === null) {
            return app(Inherited::class)->ofSite('')['resolvers']['value'];
        }
        $own = \App\Models\Scope::query()->where('prefix_id', $subnet->id)->first()?->optionValues->firstWhere('code', \HarborPost\Core\Dhcp\Option\OptionTable::NAME_SERVERS);

        return $own === null ? app(Inherited::class)->of($subnet)['resolvers']['value'] : $own->values;
    }
}
