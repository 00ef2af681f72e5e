<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Scope;
use App\Models\SwitchVlan;

/** What the router of a link is meant to tell clients of IPv6, against what the switches said when they were last read. */
final readonly class RouterSays
{
    /** field → what it is, its standard, and what follows when it is on or off against what is meant */
    private const FLAGS = [
        'managed' => [
            'addresses by DHCPv6, M', 'RFC 4861 §4.2', 'clients ask for addresses that nobody leases', 'no client asks for an address',
        ],
        'other' => [
            'other things by DHCPv6, O', 'RFC 4861 §4.2', 'clients ask for options that nobody tells', 'no client asks for options',
        ],
        'autonomous' => [
            'addresses of one\'s own, A', 'RFC 4861 §4.6.2', 'clients make addresses besides the leased ones',
            'clients make no address of their own',
        ],
    ];

    /**
     * @param  list<array{what: string, standard: string, meant: bool, said: ?bool, means: string}>  $lines
     * @param  string  $problem  why nothing is known of what is said
     */
    private function __construct(public array $lines, public string $problem)
    {
    }

    public static function of(Scope $scope): self
    {
        $vlan = $scope->prefix->vlan;
        $switch = $vlan === null
            ? null
            : SwitchVlan::query()->where('domain_id', $vlan->domain_id)->where('number', $vlan->number)->first();
        $said = $switch?->advertises;
        $lines = [];
        foreach ($scope->advertisement()->form() as $flag => $meant) {
            [$what, $standard, $on, $off] = self::FLAGS[$flag];
            $is = $said[$flag] ?? null;
            $lines[] = ['what' => $what, 'standard' => $standard, 'meant' => $meant, 'said' => $is, 'means' => $is === true ? $on : $off];
        }

        return new self($lines, match (true) {
            $vlan === null => 'the subnet is in no VLAN',
            $switch === null => 'the VLAN was not found on a switch',
            default => 'the switch says nothing of it',
        });
    }
}
