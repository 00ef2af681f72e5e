<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Live\Exchange;
use App\Live\ExchangeClient;
use App\Live\ExchangeFindings;
use App\Models\Scope;
use App\Models\Server;
use App\Models\Stage;
use App\Queries\OwnOptions;
use App\Queries\Picks;
use App\Queries\ServedClient;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** What a client would get, computed, and beside it what it gets by real packets. */
final class ExchangeController extends Controller
{
    private const FIELDS = ['mac', 'client', 'name', 'asked', 'vendor', 'user', 'circuit', 'remote', 'requested'];

    public function show(Request $request): View
    {
        return $this->page($request, send: false);
    }

    /** Sends real packets: an operator's right, asked for before anything is looked up. */
    public function run(Request $request): View
    {
        $this->wholeOnly();
        abort_unless($this->person()->operatesAll(), 403);

        return $this->page($request, send: true);
    }

    private function page(Request $request, bool $send): View
    {
        $this->wholeOnly();
        $asked = trim($request->string('scope')->toString());
        [$id, $problem] = $asked === '' ? [null, null] : $this->meant($asked);
        $six = $id === null ? null : Scope::query()->whereHas('prefix', fn ($q) => $q->where('family', 6))->find($id);
        if ($six !== null) {
            return app(ExchangeV6Controller::class)->page($request, $six, $send);
        }
        $input = [];
        foreach (self::FIELDS as $field) {
            $input[$field] = trim($request->string($field)->toString());
        }
        $input['mac'] = $input['mac'] === '' ? ExchangeClient::fresh() : $input['mac'];
        $scope = $id === null
            ? null
            : Scope::query()->with([
                'prefix', 'placements.server', 'ranges', 'exclusions', 'reservations.optionValues', 'optionValues', 'pair.first',
                'pair.second',
            ])->findOrFail($id);
        $computed = $exchange = null;
        $findings = [];
        $down = array_values(array_filter((array) $request->input('down'), is_string(...)));
        if ($scope !== null) {
            try {
                $client = self::sketch($input);
                $computed = ServedClient::of($scope, $client, $down);
                if ($send) {
                    ExchangeClient::check($client->mac);
                    $placement = $scope->placements->firstWhere('server_id', $request->string('server')->toString())
                        ?? $scope->placements->first();
                    abort_if($placement === null, 422, 'The scope is on no server.');
                    $exchange = Exchange::run($scope, $placement->server, $client);
                    $findings = ExchangeFindings::of($computed, $placement->server, $exchange);
                    $problem = $scope->pair === null || $placement->shipped_at === null
                        ? null
                        : self::silence($computed, $placement->server, $exchange);
                }
            } catch (NotUnderstood|MalformedBytes|\DomainException $e) {
                $problem = $e->getMessage();
            }
        }

        return view('lease.exchange', [
            'example' => $scope === null ? Scope::query()->where('stage', Stage::Live)->orderBy('name')->first() : null,
            'scope' => $scope, 'asked' => $asked, 'computed' => $computed, 'exchange' => $exchange, 'findings' => $findings,
            'down' => $down, 'may' => $this->person()->operatesAll(), 'problem' => $problem ?? $exchange?->problem, 'input' => $input,
            'server' => $request->string('server')->toString(), 'book' => OwnOptions::now(),
        ]);
    }

    /** @return array{?string, ?string} the scope that is meant, or why none is */
    private function meant(string $asked): array
    {
        if (Scope::query()->whereKey($asked)->exists()) {
            return [$asked, null];
        }
        $meant = (new Picks($this->reach()))->meant(Scope::class, $asked);

        return count($meant) === 1 ? [$meant[0]['id'], null] : [null, $meant === []
            ? "\"$asked\" is no scope"
            : "\"$asked\" is not clear: ".implode('; ', array_column($meant, 'label'))];
    }

    /** A server of a pair that leaves the client to its partner, as was computed, is not one that is away. */
    private static function silence(ServedClient $computed, Server $server, Exchange $exchange): ?string
    {
        foreach ($exchange->problem === null ? [] : $computed->servers as $one) {
            if ($one['server']->id === $server->id && $one['silent'] !== null) {
                return "$server->name was silent, as computed: {$one['silent']}";
            }
        }

        return null;
    }

    /**
     * @param  array<string, string>  $input
     *
     * @throws NotUnderstood
     * @throws MalformedBytes
     */
    private static function sketch(array $input): ClientSketch
    {
        $asked = array_values(
            array_filter(
                array_map(intval(...), preg_split('/[\s,]+/', $input['asked'], -1, PREG_SPLIT_NO_EMPTY) ?: []),
                static fn (int $c): bool => $c > 0 && $c < 255,
            ),
        );

        return new ClientSketch(
            MacAddress::parse($input['mac']),
            substr($input['name'], 0, 63),
            $asked,
            substr(ClientSketch::bytes($input['vendor']), 0, 255),
            substr(ClientSketch::bytes($input['user']), 0, 254),
            substr(ClientSketch::bytes($input['client']), 0, 130),
            substr(ClientSketch::bytes($input['circuit']), 0, 120),
            substr(ClientSketch::bytes($input['remote']), 0, 120),
            $input['requested'] === '' ? null : Address::parse($input['requested']),
        );
    }
}
