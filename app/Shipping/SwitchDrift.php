<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Directory\ChangeVlan;
use App\Acts\Directory\MakeVlan;
use App\Acts\Plan\ChangePrefix;
use App\Models\Layer2Domain;
use App\Models\Vlan;
use App\Queries\Intents;
use App\Queries\SwitchIntent;
use HarborPost\Core\Dhcp\V6\Advertisement;
use HarborPost\Core\Net\Address;

/**
 * What the switches say of VLANs against the directory and the plan. Names, gateways and VLANs that only a switch has can be taken.
 *
 * @phpstan-type Running array{domain: string, number: int, name: string, gateway: string, relays: list<string>, ports: ?int,
 *     denies: ?list<string>,
 *     advertises: ?array{managed: bool, other: bool, autonomous: bool}}
 */
final readonly class SwitchDrift implements Takable
{
    /** @var array<string, SwitchIntent> by VLAN */
    private array $intents;

    /** @var array<string, Running> "domain number" → what runs */
    private array $runs;

    /** @var array<string, string> name of a layer-2 domain → id */
    private array $domains;

    /** @param  list<Running>  $runs */
    public function __construct(array $runs)
    {
        $this->intents = SwitchIntent::of(Vlan::query()->with('domain')->orderBy('domain_id')->orderBy('number')->get());
        $this->domains = Layer2Domain::query()->pluck('id', 'name')->all();
        $this->runs = array_combine(array_map(static fn (array $v): string => "$v[domain] $v[number]", $runs), $runs);
    }

    public function lines(): array
    {
        $lines = [];
        $known = [];
        foreach ($this->intents as $id => $intent) {
            $key = self::key($intent);
            $known[$key] = true;
            $lines += $this->ofVlan($id, $intent, $this->runs[$key] ?? null);
        }
        foreach (array_diff_key($this->runs, $known) as $key => $vlan) {
            if (isset($this->domains[$vlan['domain']])) {
                $why = trim($vlan['name']) === '' ? 'it has no name on the switch' : '';
                $lines["new:$key"] = new DriftLine(
                    "VLAN $vlan[number] in $vlan[domain]",
                    $vlan['name'] === '' ? 'without a name' : $vlan['name'],
                    '',
                    $why,
                );
            }
        }

        return $lines;
    }

    public function acts(array $keys): array
    {
        $lines = $this->lines();
        $acts = [];
        foreach ($keys as $key) {
            if (! isset($lines[$key]) || ! $lines[$key]->takes()) {
                continue;
            }
            [$kind, $which] = explode(':', $key, 2);
            if ($kind === 'new') {
                $vlan = $this->runs[$which];
                $acts[] = MakeVlan::fromInput([
                    'domain' => $this->domains[$vlan['domain']],
                    'number' => $vlan['number'],
                    'name' => $vlan['name'],
                ]);

                continue;
            }
            $intent = $this->intents[$which];
            $running = $this->runs[self::key($intent)];
            $acts[] = $kind === 'gateway' && $intent->subnet !== null
                ? new ChangePrefix([$intent->subnet->id], gateway: $running['gateway'])
                : new ChangeVlan($which, name: $running['name']);
        }

        return $acts;
    }

    public function undone(): array
    {
        $vlans = array_filter(array_keys($this->lines()), static fn (string $k): bool => ! str_starts_with($k, 'new:'));

        return array_values(array_unique(array_map(static fn (string $k): string => explode(':', $k, 2)[1], $vlans)));
    }

    /**
     * @param  Running|null  $running
     * @return array<string, DriftLine>
     */
    private function ofVlan(string $id, SwitchIntent $intent, ?array $running): array
    {
        $title = "VLAN {$intent->vlan->number} in {$intent->vlan->domain->name}";
        if ($running === null) {
            return $intent->isLive()
                ? [
                    "gone:$id" => new DriftLine(
                        $title,
                        '',
                        $intent->vlan->name,
                        'a VLAN that a subnet uses is not taken out of the directory from here',
                    ),
                ]
                : [];
        }
        $sorted = static function (array $list): string {
            sort($list);

            return implode(', ', $list);
        };
        $denies = $running['denies'] ?? [];
        $meant = $intent->denials();
        $denied = $meant === null ? array_diff($denies, $denies === [] ? [] : $intent->filtered($denies)['keep']) : [];
        $lines = [
            "name:$id" => new DriftLine(
                "name of $title",
                $running['name'],
                $intent->vlan->name,
                trim($running['name']) === '' ? 'a VLAN has a name' : '',
            ),
            "gateway:$id" => new DriftLine(
                "gateway of $title",
                $running['gateway'],
                $intent->gateway,
                $this->noGateway($intent, $running['gateway']),
            ),
            "relays:$id" => new DriftLine(
                "relays of $title",
                $sorted($running['relays']),
                $sorted($intent->relays),
                'relays follow from the servers of the scope: change those',
            ),
            "advertises:$id" => new DriftLine(
                "router advertisements of $title",
                $intent->advertisement === null || $running['advertises'] === null
                    ? ''
                    : implode(', ', Advertisement::fromForm($running['advertises'])->lines()),
                implode(', ', $intent->advertisement?->lines() ?? []),
                'they follow from the scope of the link: change that',
            ),
            "denies:$id" => $meant === null
                ? new DriftLine("denials in $title", $sorted($denied), '', 'clients of the subnet need what is denied')
                : new DriftLine(
                    "denials in $title",
                    Intents::same($denies, $meant) ? '' : $sorted($denies),
                    Intents::same($denies, $meant) ? '' : $sorted($meant),
                    'they follow from the rules of what its clients may reach: change those',
                ),
        ];
        if ($intent->gateway === '') {
            unset($lines["gateway:$id"]);
        }

        return array_filter($lines, static fn (DriftLine $l): bool => $l->there !== $l->here);
    }

    private function noGateway(SwitchIntent $intent, string $runs): string
    {
        return match (true) {
            $intent->subnet === null => 'no subnet is in this VLAN',
            Address::tryParse($runs) === null => 'the switch says none',
            default => '',
        };
    }

    private static function key(SwitchIntent $intent): string
    {
        return "{$intent->vlan->domain->name} {$intent->vlan->number}";
    }
}
