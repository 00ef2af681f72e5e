<?php

declare(strict_types=1);

namespace App\View\Joined;

use App\Models\Scope;
use App\Models\ScopeServer;
use App\Models\Vlan;
use App\Shipping\Chain;
use Illuminate\Support\HtmlString;

/** The way of a client's DISCOVER: VLAN, gateway, relay, server, scope; where a link is broken the line is cut. */
final class RelayChain
{
    /**
     * @param  array<string, array{state: 'present'|'missing'|'differs'|'idle', words: string}>  $sheet  of the VLAN, by column
     * @param  array<string, string>  $digests  server → digest of the scope as it is meant
     * @param  list<string>  $drifted  names of servers
     * @param  list<string>  $relays  addresses that the switch relays to
     */
    public static function draw(Scope $scope, Vlan $vlan, array $sheet, array $digests, array $drifted, array $relays): HtmlString
    {
        $servers = $scope->placements->map(static fn (ScopeServer $p): Box => self::server($scope, $p, $digests, $drifted, $relays))->all();
        $relay = new Box('Relay', [$sheet['relay']['words'] ?: 'none needed'], null, self::sign($sheet['relay']['state']), null,
            array_values($servers));
        $sign = self::sign($sheet['gateway']['state']);
        $gateway = new Box('Gateway', [$sheet['gateway']['words']], at('plan.prefix', $scope->prefix_id), $sign, null, [$relay]);

        return Drawing::of(
            [new Box("VLAN $vlan->number", [$vlan->name, "switch: {$sheet['switch']['words']}"], at('directory.vlan', $vlan->id),
                self::sign($sheet['switch']['state']), null, [$gateway])],
            'From the VLAN to the scope',
            146,
            20,
        );
    }

    /**
     * @param  array<string, string>  $digests
     * @param  list<string>  $drifted
     * @param  list<string>  $relays
     */
    private static function server(Scope $scope, ScopeServer $placement, array $digests, array $drifted, array $relays): Box
    {
        $name = $placement->server->name;
        $address = (string) $placement->server->address;
        $led = in_array($address, $relays, true);
        $chain = Chain::ofScope([$placement], $digests, array_values(array_intersect($drifted, [$name])));
        $own = new Box($scope->name, [$chain->words], null, match (true) {
            $chain->inEffect => Sign::Good,
            $chain->drifted => Sign::Odd,
            $chain->shipped => Sign::Waits,
            default => Sign::Wrong,
        });

        return new Box(
            $name,
            [$address === '' ? 'no address is known' : $address, $led ? 'the switch relays to it' : 'no relay leads to it'],
            at('ship.server', $placement->server_id),
            $led ? Sign::Good : Sign::Wrong,
            null,
            [$own],
        );
    }

    private static function sign(string $state): Sign
    {
        return match ($state) {
            'present' => Sign::Good,
            'missing' => Sign::Wrong,
            'differs' => Sign::Odd,
            default => Sign::Plain,
        };
    }
}
