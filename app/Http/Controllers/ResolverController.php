<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Live\ResolverPath;
use App\Models\Power;
use App\Models\Server;
use App\Models\ServerKind;
use App\Queries\GivenResolvers;
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
        $given = array_values(
            array_filter(
                preg_split('/[\s,]+/', $request->string('resolvers')->toString()) ?: [],
                fn (string $a): bool => Address::tryParse($a) !== null,
            ),
        );
        $resolvers = $given !== [] ? $given : GivenResolvers::at($client);
        $name = Name::tryParse(rtrim($request->string('name', 'www.example.net')->toString(), '.').'.');
        $off = array_values(array_filter((array) $request->input('off', []), is_string(...)));
        $path = $name === null ? null : ResolverPath::computed($name, $resolvers, $client, $off);

        return view(
            'name.resolvers',
            [
                'servers' => $servers, 'client' => $client, 'resolvers' => $resolvers, 'name' => $name, 'off' => $off, 'path' => $path,
                'observed' => null, 'given' => GivenResolvers::everywhere(), 'may' => $this->works(Power::NameService),
                'typed' => $given !== [],
            ],
        );
    }

    /** The same question asked for real. */
    public function observe(Request $request): View
    {
        $this->wholeOnly();
        abort_unless($this->works(Power::NameService), 403);
        $page = $this->index($request);
        $data = $page->getData();

        try {
            return $data['name'] instanceof Name
                ? $page->with('observed', ResolverPath::observed($data['name'], $data['resolvers'], $data['client'], $data['off']))
                : $page;
        } catch (Unanswered $e) {
            session()->now('bad', $e->getMessage());

            return $page;
        }
    }

    public function hints(Request $request, string $server): View
    {
        $this->wholeOnly();
        $row = Server::answering(ServerKind::naming())->findOrFail($server);
        $own = RootHints::ofRows($row->resolving['hints'] ?? []);
        $primed = $problem = null;
        if ($request->boolean('prime')) {
            [$primed, $problem] = self::prime($own);
        }

        return view(
            'name.hints',
            [
                'server' => $row, 'own' => $own, 'primed' => $primed, 'problem' => $problem,
                'difference' => $primed === null ? null : $own->against($primed), 'may' => $this->works(Power::NameService),
            ],
        );
    }

    public function hintsFile(string $server): Response
    {
        $this->wholeOnly();
        $row = Server::answering(ServerKind::naming())->findOrFail($server);

        return response(
            RootHints::ofRows($row->resolving['hints'] ?? [])->text(),
            200,
            ['Content-Type' => 'text/dns; charset=utf-8', 'Content-Disposition' => "attachment; filename=\"$row->name.hints\""],
        );
    }

    /** @return array{?RootHints, ?string} what a root server answers to a priming query (RFC 9609 §3) */
    private static function prime(RootHints $hints): array
    {
        $problem = 'There is no root hint to ask.';
        foreach (Server::query()->where('kind', ServerKind::Roots)->get() as $root) {
            if ($hints->servers !== [] && ! in_array((string) $root->address, $hints->addresses(), true)) {
                continue;
            }
            try {
                $answer = (new DnsClient($root->name, $root->endpoint, (float) config('harbor.patience')))
                    ->ask(Name::root(), RecordType::of(RecordType::NS), null, false)->message;

                return [RootHints::of([...$answer->answers, ...$answer->additional]), null];
            } catch (Malformed|Unanswered $e) {
                $problem = $e->getMessage();
            }
        }

        return [null, $problem];
    }
}
