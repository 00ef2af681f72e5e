<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\ClientClass;
use App\Models\Scope;
use App\Models\Server;
use App\Models\Stage;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Dhcp\Option\StackedValue;
use HarborPost\Core\Net\Family;

/** Which scopes a value of an outer layer reaches, and how many clients have a lease of them now. */
final class OptionReach
{
    private const NAMED = 6;

    /**
     * @return array{reached: list<Scope>, keep: list<Scope>, clients: int} keep: those with a nearer value of their own
     */
    public static function of(OptionLayer $layer, string $id, int $code, Family $family = Family::V4): array
    {
        $layers = new OptionLayers(new Inherited);
        $server = $layer === OptionLayer::Server ? Server::query()->find($id) : null;
        $class = $layer === OptionLayer::ClientClass ? ClientClass::query()->with('optionValues')->find($id) : null;
        $reached = $keep = [];
        $scopes = Scope::query()->with(['prefix', 'optionValues'])->where('stage', Stage::Live)
            ->whereHas('prefix', fn ($q) => $q->where('family', $family->value))
            ->when($server, fn ($q) => $q->whereHas('placements', fn ($p) => $p->where('server_id', $server?->id)))
            ->orderBy('name')->orderBy('id');
        foreach ($scopes->lazy(1000) as $scope) {
            $stack = $layers->of($scope, $server, $class === null ? [] : [$class]);
            $nearest = $stack->nearest()[$code] ?? null;
            if (self::isOf($nearest, $layer, $id)) {
                $reached[] = $scope;
            } elseif (array_filter($stack->hidden($code), static fn (StackedValue $v): bool => self::isOf($v, $layer, $id)) !== []) {
                $keep[] = $scope;
            }
        }
        $clients = 0;
        foreach (array_chunk(array_map(static fn (Scope $s): string => $s->id, $reached), 1000) as $ids) {
            $clients += InUse::activeLeases()->whereIn('scope_id', $ids)
                ->when($server, fn ($q) => $q->where('server_id', $server?->id))->count();
        }

        return ['reached' => $reached, 'keep' => $keep, 'clients' => $clients];
    }

    /** @param  list<Scope>  $scopes */
    public static function some(array $scopes): string
    {
        $names = array_map(static fn (Scope $s): string => $s->name, array_slice($scopes, 0, self::NAMED));
        $more = count($scopes) - count($names);

        return implode('; ', $names).($more > 0 ? " and $more more" : '');
    }

    private static function isOf(?StackedValue $value, OptionLayer $layer, string $id): bool
    {
        return $value !== null && $value->layer === $layer && $value->of === $id;
    }
}
