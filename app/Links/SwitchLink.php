<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Layer2Domain;
use App\Models\Vlan;
use App\Queries\Intents;
use App\Queries\SwitchIntent;
use HarborPost\Core\Dhcp\V6\Advertisement;
use Illuminate\Database\Eloquent\Collection;

/**
 * The switches as a server that is shipped to: each VLAN's name, gateway interface, relays and the denials that hide what its clients
 * need.
 */
final readonly class SwitchLink implements Link
{
    public function __construct(private NetworkLink $network)
    {
    }

    public function compare(bool $deep = false): array
    {
        $running = [];
        foreach ($this->network->vlans() as $vlan) {
            $running["{$vlan['domain']} {$vlan['number']}"] = $vlan;
        }
        $differences = [];
        $brought = Brought::to($this->network->server->id, 'vlan');
        foreach (SwitchIntent::of(Vlan::query()->with('domain')->orderBy('domain_id')->orderBy('number')->get()) as $id => $intent) {
            $key = "{$intent->vlan->domain->name} {$intent->vlan->number}";
            $differences[] = $this->difference($id, $intent, $running[$key] ?? null, ($brought[$id] ?? null) === $intent->digest());
            unset($running[$key]);
        }
        $known = Layer2Domain::query()->pluck('name')->flip();
        foreach ($running as $key => $vlan) {
            if (isset($known[$vlan['domain']])) {
                $differences[] = new Difference(
                    'vlan',
                    $key,
                    "$key {$vlan['name']}",
                    DifferenceState::Gone,
                    message: 'the directory does not have this VLAN',
                    drifted: true,
                );
            }
        }

        return [...$differences, ...(new SwitchPorts($this->network))->compare()];
    }

    public function apply(string $kind, string $id): void
    {
        if ($kind === SwitchPorts::KIND) {
            (new SwitchPorts($this->network))->apply($id);

            return;
        }
        $intent = $this->intent($id);
        if ($intent === null) {
            [$domain, $number] = $this->split($id);
            $this->network->set([['domain' => $domain, 'number' => $number, 'gone' => true]]);

            return;
        }
        $running = $this->running($intent);
        $set = [
            'domain' => $intent->vlan->domain->name, 'number' => $intent->vlan->number, 'name' => $intent->vlan->name,
            'relays' => $intent->relays,
        ];
        $set += $intent->gateway === '' ? [] : ['gateway' => $intent->gateway];
        $set += $intent->advertisement === null ? [] : ['advertises' => $intent->advertisement->form()];
        $meant = $intent->denials();
        $set += match (true) {
            $meant !== null => ['denies' => $meant],
            isset($running['denies']) => ['denies' => $intent->filtered($running['denies'])['keep']],
            default => [],
        };
        $this->network->set([$set]);
    }

    public function proves(string $kind, string $id): bool
    {
        return true;
    }

    public function verify(string $kind, string $id): string
    {
        if ($kind === SwitchPorts::KIND) {
            return (new SwitchPorts($this->network))->verify($id);
        }
        $intent = $this->intent($id);
        if ($intent === null) {
            return 'the VLAN is gone from the switches';
        }
        $difference = $this->difference($id, $intent, $this->running($intent));
        if ($difference->needsShipping()) {
            throw Unanswered::refused(
                $this->network->server->name,
                'read back, it still differs: '.implode('; ', [...$difference->removed, ...$difference->added]),
            );
        }

        return 'read back from the switch: '
            .implode(
                ', ',
                array_filter([
                    $intent->vlan->name,
                    $intent->gateway,
                    $intent->relays === [] ? '' : 'relays to '.implode(' and ', $intent->relays),
                ]),
            );
    }

    /**
     * @return list<array{domain: string, number: int, name: string, gateway: string, relays: list<string>, ports: ?int,
     *     denies: ?list<string>,
     *     advertises: ?array{managed: bool, other: bool, autonomous: bool}}>
     */
    public function vlans(): array
    {
        return $this->network->vlans();
    }

    private function intent(string $id): ?SwitchIntent
    {
        return SwitchIntent::of(new Collection(array_filter([Vlan::query()->with('domain')->find($id)])))[$id] ?? null;
    }

    /**
     * @return array{domain: string, number: int, name: string, gateway: string, relays: list<string>, ports: ?int,
     *     denies: ?list<string>,
     *     advertises: ?array{managed: bool, other: bool, autonomous: bool}}|null
     */
    private function running(SwitchIntent $intent): ?array
    {
        foreach ($this->network->vlans() as $vlan) {
            if ($vlan['domain'] === $intent->vlan->domain->name && $vlan['number'] === $intent->vlan->number) {
                return $vlan;
            }
        }

        return null;
    }

    /**
     * @param  array{domain: string, number: int, name: string, gateway: string, relays: list<string>, ports: ?int,
     *     denies: ?list<string>,
     *     advertises: ?array{managed: bool, other: bool, autonomous: bool}}|null  $running
     */
    private function difference(string $id, SwitchIntent $intent, ?array $running, bool $asBrought = false): Difference
    {
        $title = "{$intent->vlan->domain->name} {$intent->vlan->line()}";
        if ($running === null) {
            $state = $intent->isLive() ? DifferenceState::New : DifferenceState::Waiting;
            $added = [
                "name {$intent->vlan->name}",
                ...($intent->gateway === '' ? [] : ["interface $intent->gateway"]),
                ...array_map(static fn (string $r): string => "relay to $r", $intent->relays),
                ...$intent->advertisement?->lines() ?? [],
                ...array_map(static fn (string $net): string => "denial of $net", $intent->denials() ?? []),
            ];

            return new Difference(
                'vlan',
                $id,
                $title,
                $state,
                [],
                $added,
                0,
                count($added),
                $state === DifferenceState::New ? 'not on the switch' : 'its subnet is not live yet',
                drifted: $state === DifferenceState::New && $asBrought,
            );
        }
        $relays = $running['relays'];
        sort($relays);
        $removed = $added = [];
        foreach (
            [
                'name' => [$running['name'], $intent->vlan->name],
                'interface' => [$running['gateway'], $intent->gateway === '' ? $running['gateway'] : $intent->gateway],
            ] as $what => [$is, $meant]
        ) {
            if ($is !== $meant) {
                $removed = $is === '' ? $removed : [...$removed, "$what $is"];
                $added[] = "$what $meant";
            }
        }
        $lines = static fn (array $list): array => array_values(array_map(static fn (string $r): string => "relay to $r", $list));
        $removed = [...$removed, ...$lines(array_diff($relays, $intent->relays))];
        $added = [...$added, ...$lines(array_diff($intent->relays, $relays))];
        if ($intent->advertisement !== null) {
            $said = $running['advertises'] === null ? [] : Advertisement::fromForm($running['advertises'])->lines();
            $removed = [...$removed, ...array_values(array_diff($said, $intent->advertisement->lines()))];
            $added = [...$added, ...array_values(array_diff($intent->advertisement->lines(), $said))];
        }
        $denies = $running['denies'] ?? [];
        $meant = $intent->denials() ?? ($denies === [] ? [] : $intent->filtered($denies)['keep']);
        if (! Intents::same($denies, $meant)) {
            $denial = static fn (string $net): string => "denial of $net";
            $removed = [...$removed, ...array_values(array_map($denial, array_diff($denies, $meant)))];
            $added = [...$added, ...array_values(array_map($denial, array_diff($meant, $denies)))];
        }

        $same = $removed === [] && $added === [];

        return new Difference(
            'vlan',
            $id,
            $title,
            $same ? DifferenceState::Same : DifferenceState::Differs,
            $removed,
            $added,
            count($removed),
            count($added),
            drifted: ! $same && $asBrought,
        );
    }

    /** @return array{string, int} */
    private function split(string $key): array
    {
        $at = (int) strrpos($key, ' ');

        return [substr($key, 0, $at), (int) substr($key, $at + 1)];
    }
}
