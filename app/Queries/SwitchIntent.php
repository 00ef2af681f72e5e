<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\Stage;
use App\Models\Vlan;
use HarborPost\Core\Dhcp\V6\Advertisement;
use HarborPost\Core\Exchange\Intent\Intent;
use HarborPost\Core\Exchange\Intent\Rule;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Net\PrefixSet;
use Illuminate\Database\Eloquent\Collection;

/**
 * What the switches are meant to say of a VLAN: its name, the gateway of its live subnet, relays to the servers that lease there, and what
 * its router tells clients of IPv6.
 */
final readonly class SwitchIntent
{
    /** @param  list<string>  $relays  addresses of the servers that hold the scope */
    private function __construct(
        public Vlan $vlan,
        public ?Prefix $subnet,
        public ?Scope $scope,
        public string $gateway,
        public array $relays,
        public ?Advertisement $advertisement,
        public ?Intent $reach,
    ) {
    }

    /**
     * @param  Collection<int, Vlan>  $vlans  with their domain
     * @return array<string, self> by id
     */
    public static function of(Collection $vlans): array
    {
        $subnets = Prefix::query()->whereIn('vlan_id', $vlans->modelKeys())->where('kind', PrefixKind::Subnet)->orderBy('family')
            ->orderBy('first')->get()->groupBy('vlan_id');
        $scopes = Scope::query()->with(['placements.server', 'ranges', 'reservations'])
            ->whereIn('prefix_id', $subnets->flatten()->pluck('id'))
            ->get()->keyBy('prefix_id');
        $intents = [];
        $reach = Intents::of(array_values(array_map(strval(...), $vlans->modelKeys())));
        foreach ($vlans as $vlan) {
            $own = $subnets[$vlan->id] ?? new Collection;
            $subnet = $own->firstWhere('family', 4) ?? $own->first();
            $scope = $subnet === null ? null : $scopes[$subnet->id] ?? null;
            // One relay carries both families to the servers that lease there.
            $here = $own->map(fn (Prefix $p): ?Scope => $scopes[$p->id] ?? null)->filter();
            $relays = array_values(array_unique(array_filter($here->flatMap(
                fn (Scope $s): array => $s->placements->map(fn ($p): string => (string) $p->server->address)->all(),
            )->all())));
            sort($relays);
            $six = $own->first(fn (Prefix $p): bool => $p->family === 6 && ($scopes[$p->id]->stage ?? null) === Stage::Live);
            $says = $six === null ? null : ($scopes[$six->id] ?? null)?->advertisement();
            $intents[$vlan->id] = new self(
                $vlan,
                $subnet,
                $scope,
                (string) $subnet?->gateway,
                $relays,
                $says,
                $reach[$vlan->id] ?? null,
            );
        }

        return $intents;
    }

    public function digest(): string
    {
        return hash('sha256', json_encode([
            $this->vlan->name, $this->gateway, $this->relays, ...$this->advertisement === null ? [] : [$this->advertisement->form()],
            ...$this->reach === null ? [] : [$this->denials()],
        ], JSON_THROW_ON_ERROR));
    }

    /** A VLAN whose subnet is not live yet is not on switches yet. */
    public function isLive(): bool
    {
        return $this->subnet !== null && $this->subnet->stage === Stage::Live;
    }

    /** @return list<string> addresses that clients of the subnet must reach: their resolvers and the servers that lease to them */
    public function needed(): array
    {
        if ($this->subnet === null) {
            return [];
        }
        $resolvers = GivenResolvers::in($this->subnet, $this->scope);
        $needed = array_filter(
            [...array_map(strval(...), $resolvers), ...$this->relays],
            fn (string $a): bool => Address::tryParse($a) !== null,
        );

        return array_values(array_unique($needed));
    }

    /**
     * What a filter is meant to keep the clients from; null where nobody said anything of it, and any filter is as good as another.
     *
     * @return ?list<string> prefixes
     */
    public function denials(): ?array
    {
        if ($this->reach === null) {
            return null;
        }
        $needed = array_map(static function (string $a): Net {
            $address = Address::parse($a);

            return $address->in($address->family->bits());
        }, $this->needed());

        return array_map(strval(...), $this->reach->denials(PrefixSet::of(...$needed))->prefixes());
    }

    /** @param  list<string>  $denies  prefixes that a filter keeps clients from */
    public function hides(array $denies, string $address): bool
    {
        $at = Address::parse($address);

        return array_filter($denies, static fn (string $net): bool => Net::tryParse($net)?->contains($at) === true) !== [];
    }

    /**
     * What clients need, by what rules say of it.
     *
     * @return list<array{address: string, resolver: bool, allows: bool, times: list<string>}>
     */
    public function needs(): array
    {
        $needs = [];
        foreach ($this->needed() as $text) {
            $answer = $this->reach?->at(Address::parse($text));
            $needs[] = [
                'address' => $text, 'resolver' => ! in_array($text, $this->relays, true), 'allows' => $answer === null || $answer->allows,
                'times' => array_map(
                    static fn (Rule $r): string => ($r->allows ? 'open ' : 'shut ').$r->when?->words(),
                    $answer->times ?? [],
                ),
            ];
        }

        return $needs;
    }

    /**
     * @param  list<string>  $denies  prefixes
     * @return array{denied: list<string>, keep: list<string>} needed addresses that a filter keeps clients from, and the denials that do
     *     no such harm
     */
    public function filtered(array $denies): array
    {
        $needed = $this->needed();
        $denied = $keep = [];
        foreach ($denies as $text) {
            $net = Net::tryParse($text);
            $hit = array_values(array_filter($needed, fn (string $a): bool => $net?->contains(Address::parse($a)) === true));
            $hit === [] ? $keep[] = $text : $denied = [...$denied, ...$hit];
        }

        return ['denied' => array_values(array_unique($denied)), 'keep' => $keep];
    }
}
