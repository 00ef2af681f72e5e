<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\ScopeDelegation;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Queries\Coverage;
use App\Queries\InUse;
use App\Queries\OptionLayers;
use App\Queries\OwnOptions;

final class ScopeShow extends OfScope
{
    protected $signature = 'scope:show {scope : its name or its subnet} {--json}';

    protected $description = 'A scope with its ranges, servers, options by layer and coverage';

    public function handle(OptionLayers $layers): int
    {
        $scope = $this->scope();
        if ($scope === null) {
            return 1;
        }
        $names = $scope->placements->pluck('server.name', 'server_id');
        $options = [];
        foreach ($layers->of($scope, $scope->placements->first()?->server)->nearest() as $code => $value) {
            $options[] = [
                'code' => $code, 'name' => OwnOptions::now()->definition($code, $scope->family())->name, 'values' => $value->values,
                'layer' => $value->layer->value,
                'of' => $value->name,
            ];
        }
        $told = [
            'name' => $scope->name, 'subnet' => (string) $scope->prefix->prefix(), 'stage' => $scope->stage->value,
            'lease_time' => $scope->lease_time,
            'ranges' => array_values($scope->ranges->map(fn (ScopeRange $r): array => [
                'range' => (string) $r->range(), 'server' => $r->server_id === null ? null : ($names[$r->server_id] ?? null),
            ])->all()),
            'delegations' => array_values($scope->delegations->map(fn (ScopeDelegation $d): array => [
                'pool' => $d->line(), 'server' => $d->server_id === null ? null : ($names[$d->server_id] ?? null),
            ])->all()),
            'servers' => array_values($scope->placements->map(fn (ScopeServer $p): array => [
                'name' => $p->server->name, 'delay_ms' => $p->delay_ms, 'shipped' => $p->shipped_at?->toIso8601String(),
            ])->all()),
            'leases' => InUse::activeLeases()->where('scope_id', $scope->id)->count(), 'reservations' => $scope->reservations->count(),
            'options' => $options, 'coverage' => Coverage::of([$scope])[$scope->id],
        ];
        if ($this->option('json')) {
            $this->json($told);

            return 0;
        }
        $this->say(
            "$told[name], $told[subnet], $told[stage]; lease time {$scope->leaseWords()}; "
                ."$told[leases] leases, $told[reservations] reservations",
        );
        foreach ($told['ranges'] as $range) {
            $this->say("  range $range[range]".($range['server'] === null ? '' : " on $range[server]"));
        }
        foreach ($told['delegations'] as $pool) {
            $this->say("  delegates $pool[pool]".($pool['server'] === null ? '' : " on $pool[server]"));
        }
        foreach ($options as $option) {
            $this->say(
                "  option $option[code] $option[name]: ".(implode(', ', $option['values']) ?: 'none, on purpose')
                    ."  from $option[layer] $option[of]",
            );
        }

        return 0;
    }
}
