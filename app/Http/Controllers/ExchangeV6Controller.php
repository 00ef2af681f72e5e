<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Live\ExchangeClient;
use App\Live\ExchangeV6;
use App\Models\Scope;
use App\Queries\OwnOptions;
use App\Queries\ServedClientV6;
use HarborPost\Core\Dhcp\V6\ClientSketch;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** What a client of DHCPv6 would get, computed, and beside it what it gets by real packets. */
final class ExchangeV6Controller extends Controller
{
    private const FIELDS = ['duid', 'iaid', 'name', 'asked', 'requested', 'length'];

    /** Called by {@see ExchangeController}, which asks for the rights. */
    public function page(Request $request, Scope $scope, bool $send): View
    {
        $input = [];
        foreach (self::FIELDS as $field) {
            $input[$field] = trim($request->string($field)->toString());
        }
        $input['duid'] = $input['duid'] === '' ? (string) ExchangeClient::freshDuid() : $input['duid'];
        $input['iaid'] = $input['iaid'] === '' ? '1' : $input['iaid'];
        $input['wants'] = in_array($request->input('wants'), ['address', 'prefix', 'both', 'options'], true)
            ? (string) $request->input('wants')
            : ($scope->delegations->isNotEmpty() && $scope->ranges->isEmpty() ? 'prefix' : 'address');
        $input['rapid'] = $request->boolean('rapid') ? '1' : '';
        $scope->load(['prefix', 'placements.server', 'ranges', 'exclusions', 'delegations', 'reservations.optionValues', 'optionValues']);
        $computed = $exchange = $problem = null;
        $findings = [];
        $down = array_values(array_filter((array) $request->input('down'), is_string(...)));
        try {
            $client = self::sketch($input);
            $computed = ServedClientV6::of($scope, $client, $down);
            if ($send) {
                ExchangeClient::checkDuid($client->duid);
                $placement = $scope->placements->firstWhere('server_id', $request->string('server')->toString())
                    ?? $scope->placements->first();
                abort_if($placement === null, 422, 'The scope is on no server.');
                $exchange = ExchangeV6::run($scope, $placement->server, $client);
                $findings = $exchange->findings($computed, $placement->server);
            }
        } catch (NotUnderstood|\DomainException $e) {
            $problem = $e->getMessage();
        }

        return view('lease.exchange-v6', [
            'scope' => $scope, 'computed' => $computed, 'exchange' => $exchange, 'findings' => $findings, 'down' => $down,
            'may' => $this->person()->operatesAll(), 'problem' => $problem ?? $exchange?->problem, 'input' => $input,
            'server' => $request->string('server')->toString(), 'book' => OwnOptions::now(),
        ]);
    }

    /**
     * @param  array<string, string>  $input
     *
     * @throws NotUnderstood
     */
    private static function sketch(array $input): ClientSketch
    {
        $asked = array_values(array_filter(
            array_map(intval(...), preg_split('/[\s,]+/', $input['asked'], -1, PREG_SPLIT_NO_EMPTY) ?: []),
            static fn (int $c): bool => $c > 0 && $c < 65536,
        ));
        if (! ctype_digit($input['iaid']) || strlen($input['iaid']) > 10 || (int) $input['iaid'] > 0xFFFFFFFF) {
            throw NotUnderstood::at($input['iaid'], 0, 'the number of an association, from 0 to 4294967295');
        }
        $length = ltrim($input['length'], '/');
        if ($length !== '' && (! ctype_digit($length) || (int) $length > 128)) {
            throw NotUnderstood::at($input['length'], 0, 'the length of a prefix, or nothing');
        }

        return new ClientSketch(
            Duid::parse($input['duid']),
            (int) $input['iaid'],
            in_array($input['wants'], ['address', 'both'], true),
            in_array($input['wants'], ['prefix', 'both'], true) ? (int) $length : null,
            $asked,
            substr((string) preg_replace('/[^A-Za-z0-9-]/', '', $input['name']), 0, 63),
            $input['rapid'] !== '',
            $input['requested'] === '' ? null : Address::parse($input['requested']),
        );
    }
}
