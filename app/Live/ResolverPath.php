<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\ControlChannel;
use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\View;
use App\Models\Zone;
use App\Queries\Zones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Exchange\PathServer;
use HarborPost\Core\Exchange\QueryPath;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;
use Illuminate\Database\Eloquent\Collection;

/** The path of a question, computed from what is planned, and the same tried on the stand-ins with some of them made silent. */
final class ResolverPath
{
    /** @return Collection<int, Server> */
    public static function servers(): Collection
    {
        return Server::answering(ServerKind::naming())->orderBy('name')->get();
    }

    /**
     * @param  list<string>  $resolvers  addresses that the client was given
     * @param  list<string>  $off  ids of servers that are taken to be silent
     */
    public static function computed(Name $name, array $resolvers, ?Address $client, array $off): QueryPath
    {
        $view = self::viewOf($client);
        $zones = Zone::query()->with('placements')->where('silenced', false)
            ->when($view, fn ($q) => $q->where('view_id', $view?->id))->whereIn('name', Zones::above($name))->get();
        $servers = [];
        foreach (self::servers() as $server) {
            $own = $server->resolving ?? [];
            $holds = array_values(
                $zones->filter(fn (Zone $z): bool => $z->placements->contains('server_id', $server->id))
                    ->map(fn (Zone $z): Name => $z->origin())->all(),
            );
            foreach (array_filter([(string) $server->address, ...($own['also'] ?? [])]) as $address) {
                $servers[$address] = new PathServer(
                    $server->name,
                    $address,
                    $holds,
                    $own['recursion'] ?? false,
                    $own['forwarders'] ?? [],
                    $own['fallback'] ?? false,
                    ($own['hints'] ?? []) !== [],
                    ! in_array($server->id, $off, true),
                    array_map(static fn (array $z): array => ['zone' => Name::parse($z['zone'])] + $z, $own['zones'] ?? []),
                );
            }
        }

        return QueryPath::of($name, $resolvers, $servers);
    }

    /**
     * The servers that are off are made silent, caches emptied, the question asked for real, and everything put back.
     *
     * @param  list<string>  $resolvers
     * @param  list<string>  $off
     * @return array{verdict: string, words: string, trail: list<string>}
     */
    public static function observed(Name $name, array $resolvers, ?Address $client, array $off): array
    {
        $servers = self::servers()->filter(fn (Server $s): bool => $s->control !== null);
        $patience = (float) config('harbor.patience');
        $channel = static fn (Server $s): ControlChannel => new ControlChannel($s, $patience);
        try {
            foreach ($servers as $server) {
                $channel($server)->ask('flush');
                $channel($server)->ask('trail');
                in_array($server->id, $off, true) ? $channel($server)->ask('mode', ['mode' => 'silent']) : null;
            }
            $result = ['verdict' => QueryPath::NOTHING, 'words' => 'no resolver answered'];
            foreach ($resolvers as $address) {
                $server = $servers->first(
                    fn (Server $s): bool => (string) $s->address === $address || in_array($address, $s->resolving['also'] ?? [], true),
                );
                if ($server === null) {
                    continue;
                }
                try {
                    $answer = (new DnsClient($server->name, $server->endpoint, 4.0))
                        ->ask($name, RecordType::of(RecordType::A), $client)->message;
                    $result = [
                        'verdict' => $answer->authoritative ? QueryPath::OWN : '',
                        'words' => "$server->name: {$answer->rcode->explained()}"
                            .($answer->answers === [] ? '' : ', '.$answer->answers[count($answer->answers) - 1]->data->text()),
                    ];
                    $answer->rcode->value === 0 || $answer->rcode->value === 3 ?: $result['verdict'] = QueryPath::NOTHING;
                    break;
                } catch (Unanswered $e) {
                    $result = ['verdict' => QueryPath::NOTHING, 'words' => $e->getMessage()];
                }
            }
        } finally {
            foreach ($servers as $server) {
                in_array($server->id, $off, true) ? self::quietly(fn () => $channel($server)->ask('mode', ['mode' => 'normal'])) : null;
            }
        }
        $trail = self::trail($servers, $channel);
        $result['verdict'] = $result['verdict'] !== ''
            ? $result['verdict']
            : (
                array_filter($trail, static fn (string $t): bool => str_contains($t, '(root)') && ! str_ends_with($t, 'silent')) !== []
                    ? QueryPath::ROOTS
                    : QueryPath::FORWARDER
            );

        return $result + ['trail' => $trail];
    }

    /**
     * @param  iterable<Server>  $servers
     * @param  \Closure(Server): ControlChannel  $channel
     * @return list<string> who asked whom
     */
    private static function trail(iterable $servers, \Closure $channel): array
    {
        $names = Server::query()->pluck('name', 'endpoint')->all();
        $trail = [];
        foreach ($servers as $server) {
            self::quietly(function () use ($server, $channel, $names, &$trail): void {
                foreach ((array) ($channel($server)->ask('trail')['trail'] ?? []) as $hop) {
                    is_array($hop)
                        ? $trail[] = "$server->name asked "
                            .($names[$hop['to'] ?? ''] ?? $hop['to'] ?? '?')
                            ." ({$hop['how']}): {$hop['outcome']}"
                        : null;
                }
            });
        }

        return $trail;
    }

    private static function quietly(\Closure $do): void
    {
        try {
            $do();
        } catch (Unanswered) {
            // It says nothing now either; the page shows what did answer.
        }
    }

    public static function viewOf(?Address $client): ?View
    {
        if ($client === null) {
            return null;
        }
        foreach (View::query()->orderBy('position')->get() as $view) {
            foreach ($view->clients as $prefix) {
                if (Prefix::tryParse($prefix)?->contains($client) === true) {
                    return $view;
                }
            }
        }

        return View::query()->orderBy('position')->first();
    }
}
