<?php

declare(strict_types=1);

namespace App\Console;

use App\Live\Exchange;
use App\Live\ExchangeClient;
use App\Live\ExchangeFindings;
use App\Live\ExchangeV6;
use App\Models\Scope;
use App\Queries\ServedClient;
use App\Queries\ServedClientV6;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\Client\ClientSketch;
use HarborPost\Core\Dhcp\V6\ClientSketch as SketchV6;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Leased;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;

final class ExchangeTry extends OfScope
{
    protected $signature = 'exchange:try {scope : its name or its subnet} {--mac=} {--vendor= : option 60} {--user= : option 77} {--name=} '
        .'{--asked= : option codes apart by commas} {--duid= : of IPv6} {--iaid=1 : of IPv6} '
        .'{--wants=address : of IPv6: address, prefix, both or options} {--send= : name of a server that is asked by packets too} {--json}';

    protected $description = 'What a client would get: computed, and with --send by packets; exit status 1 when nobody answers';

    public function handle(): int
    {
        $scope = $this->scope();
        if ($scope === null) {
            return 1;
        }
        $text = fn (string $option): string => is_string($this->option($option)) ? $this->option($option) : '';
        if ($scope->family() === Family::V6) {
            return $this->ofV6($scope, $text);
        }
        try {
            $client = new ClientSketch(
                MacAddress::parse($text('mac') === '' ? ExchangeClient::fresh() : $text('mac')),
                $text('name'),
                array_values(array_filter(array_map(intval(...), explode(',', $text('asked'))))),
                ClientSketch::bytes($text('vendor')),
                ClientSketch::bytes($text('user')),
            );
            $computed = ServedClient::of($scope, $client);
            $findings = [];
            if ($text('send') !== '') {
                $placement = $scope->placements->firstWhere('server.name', $text('send'));
                if ($placement === null) {
                    return $this->unusable("the scope is not on {$text('send')}");
                }
                ExchangeClient::check($client->mac);
                $exchange = Exchange::run($scope, $placement->server, $client);
                $findings = $exchange->problem === null
                    ? ExchangeFindings::of($computed, $placement->server, $exchange)
                    : [$exchange->problem];
            }
        } catch (NotUnderstood|MalformedBytes|\DomainException $e) {
            return $this->unusable($e->getMessage());
        }

        return $this->told($computed, $findings);
    }

    /** @param  \Closure(string): string  $text */
    private function ofV6(Scope $scope, \Closure $text): int
    {
        try {
            $client = new SketchV6(
                $text('duid') === '' ? ExchangeClient::freshDuid() : Duid::parse($text('duid')),
                (int) $text('iaid'),
                in_array($text('wants'), ['address', 'both'], true),
                in_array($text('wants'), ['prefix', 'both'], true) ? 0 : null,
                array_values(array_filter(array_map(intval(...), explode(',', $text('asked'))))),
                $text('name'),
            );
            $computed = ServedClientV6::of($scope, $client);
            $findings = [];
            if ($text('send') !== '') {
                $placement = $scope->placements->firstWhere('server.name', $text('send'));
                if ($placement === null) {
                    return $this->unusable("the scope is not on {$text('send')}");
                }
                ExchangeClient::checkDuid($client->duid);
                $exchange = ExchangeV6::run($scope, $placement->server, $client);
                $findings = $exchange->problem === null ? $exchange->findings($computed, $placement->server) : [$exchange->problem];
            }
        } catch (NotUnderstood|\DomainException $e) {
            return $this->unusable($e->getMessage());
        }
        $servers = array_map(static fn (array $one): array => [
            'server' => $one['server']->name, 'answers' => $one['silent'] === null, 'silent' => $one['silent'],
            'given' => array_map(static fn (array $p): array => [
                'kind' => $p['wish']->kind->label(), 'net' => $p['choice']->net === null ? null : (new Leased($p['choice']->net))->words(),
                'why' => $p['choice']->why,
            ], $one['parts']),
            'options' => array_map(
                static fn ($v): array => ['values' => $v->values, 'layer' => $v->layer->value],
                $one['stack']->nearest(),
            ),
        ], $computed->servers);
        if ($this->option('json')) {
            $this->json(['servers' => $servers, 'findings' => $findings]);
        } else {
            foreach ($servers as $one) {
                $given = array_map(static fn (array $g): string => "$g[kind] ".($g['net'] ?? 'nothing').", $g[why]", $one['given']);
                $this->say("$one[server]: ".($one['answers'] ? implode('; ', $given ?: ['options alone']) : "silent, $one[silent]"));
            }
            foreach ($findings as $line) {
                $this->say("DIFFERS  $line");
            }
        }

        return $findings === [] && $computed->answering() !== [] ? 0 : 1;
    }

    /** @param  list<string>  $findings */
    private function told(ServedClient $computed, array $findings): int
    {
        $servers = [];
        foreach ($computed->servers as $one) {
            $options = array_map(static fn ($v): array => ['values' => $v->values, 'layer' => $v->layer->value], $one['stack']->nearest());
            $servers[] = [
                'server' => $one['server']->name, 'answers' => $one['silent'] === null,
                'address' => $one['address'] === null ? null : (string) $one['address'],
                'why' => $one['silent'] ?? $one['why'], 'options' => $options,
            ];
        }
        if ($this->option('json')) {
            $this->json(['servers' => $servers, 'findings' => $findings]);
        } else {
            foreach ($servers as $one) {
                $this->say("$one[server]: ".($one['answers'] ? "$one[address], $one[why]" : "silent, $one[why]"));
            }
            foreach ($findings as $line) {
                $this->say("DIFFERS  $line");
            }
        }

        return $findings === [] && $computed->answering() !== [] ? 0 : 1;
    }
}
