<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\Places;
use App\Domain\Directory\Vlans;
use App\Domain\Name\NewZone;
use App\Domain\Name\ZoneApex;
use App\Domain\Plan\Tree;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Role;
use App\Models\Server;
use App\Models\Site;
use App\Models\Space;
use App\Models\View;
use App\Models\Vlan;
use App\Queries\Inherited;
use App\Queries\Planner;
use App\Queries\Zones;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\PlannedSubnet;
use HarborPost\Core\Planning\SitePlan;
use HarborPost\Core\Planning\Strategy;
use HarborPost\Core\Planning\VlanPattern;
use Illuminate\Support\Str;

/** A computed plan is taken over as one act: sites, supernets, VLANs, subnets with gateways, reverse zones. */
final readonly class TakePlan extends Act
{
    /** Reverse zones that one site may bring; more are named and left out. */
    private const ZONES = 64;

    public function __construct(
        #[Field(Kind::Id, 'Space', of: Space::class)]
        public string $space,
        #[Field(Kind::Text, 'Needs', 'The table of needs', most: 5000000)]
        public string $needs,
        #[Field(Kind::Line, 'Plan in', 'Prefixes to plan in, apart by blanks or commas; their open space is used', most: 4000)]
        public string $in,
        #[Field(Kind::Line, 'Strategy', most: 30)]
        public string $strategy = 'tight',
        #[Field(Kind::Choice, 'Stage', choices: ['planned', 'live', 'retiring', 'withheld'])]
        public string $stage = 'planned',
        #[Field(Kind::Flag, 'Make VLANs')]
        public bool $vlans = true,
        #[Field(Kind::Id, 'View', 'View of the reverse zones that are made; blank makes none', of: View::class)]
        public string $view = '',
        #[Field(Kind::Line, 'Fingerprint', 'Fingerprint of the plan that was looked at; another one by now stops the act', most: 80)]
        public string $seenPlan = '',
    ) {
    }

    public function title(): string
    {
        return "Take over a plan in $this->in";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('plan.space', $this->space);
    }

    public function apply(Ledger $ledger): void
    {
        $space = Space::query()->find($this->space) ?? $ledger->refuse('no-space', 'There is no such space', field: 'space');
        $strategy = Strategy::tryFrom($this->strategy)
            ?? $ledger->refuse('bad-strategy', 'The strategy is tight, room or fixed', field: 'strategy');
        Tree::lock($space, null);
        $planner = Planner::read($space, $this->in, $this->needs);
        foreach ($planner->faults as $fault) {
            $ledger->refuse('bad-needs', $fault, field: 'needs');
        }
        $plan = $planner->plan($strategy);
        if ($planner->needs === []) {
            $ledger->refuse('no-needs', 'The table holds no needs', field: 'needs');
        }
        foreach ($plan->unplaced as $one) {
            $ledger->refuse(
                'does-not-fit',
                "{$one['site']} needs an IPv{$one['family']} /{$one['length']}, and "
                    .($one['largest'] === null ? 'nothing is open' : "the largest that is open is a /{$one['largest']}"),
                isset($plan->wouldFit[$one['family']])
                    ? "One further open /{$plan->wouldFit[$one['family']]} would hold all that is left over."
                    : '',
                field: 'in',
            );
        }
        if ($this->seenPlan !== '' && $this->seenPlan !== Planner::fingerprint($plan)) {
            $ledger->refuse(
                'plan-moved',
                'The open space changed since this plan was computed',
                'Somebody carved there meanwhile. Compute it again and look.',
                null,
                'in',
            );
        }
        foreach ($plan->sites as $site) {
            $this->site($ledger, $space, $site);
        }
    }

    private function site(Ledger $ledger, Space $space, SitePlan $plan): void
    {
        $site = Site::query()->where('name', $plan->site)->value('id');
        if (! is_string($site)) {
            $site = Places::site($ledger, (string) Str::ulid(), $plan->site)->id;
        }
        $domain = $this->vlans ? $this->domain($ledger, $site, $plan->site) : null;
        $holders = [];
        foreach (array_filter([$plan->prefix, $plan->prefix6]) as $net) {
            $holders[$net->family()->value] = $this->carve($ledger, $space, $net, $plan->site, $site, PrefixKind::Supernet);
        }
        $taken = $domain === null ? [] : array_fill_keys(Vlan::query()->where('domain_id', $domain)->pluck('number')->all(), true);
        foreach ($plan->subnets as $subnet) {
            $vlan = $domain === null ? '' : $this->vlan($ledger, $domain, $subnet, $taken);
            foreach (array_filter([$subnet->prefix, $subnet->prefix6]) as $net) {
                $this->carve(
                    $ledger,
                    $space,
                    $net,
                    $subnet->need->purpose,
                    $site,
                    PrefixKind::Subnet,
                    $vlan,
                    $holders[$net->family()->value] ?? null,
                );
            }
        }
        if ($this->view !== '') {
            foreach (array_filter([$plan->prefix, $plan->prefix6]) as $net) {
                $this->reverse($ledger, $net);
            }
        }
    }

    private function carve(
        Ledger $ledger,
        Space $space,
        Net $net,
        string $name,
        string $site,
        PrefixKind $kind,
        string $vlan = '',
        ?Prefix $in = null,
    ): Prefix {
        // The plan was computed from open blocks, so only the place in the tree is left to find.
        $parent = $in ?? Tree::lockParent($space, $net, $kind->groups());
        $row = new Prefix([
            'id' => (string) Str::ulid(), 'space_id' => $space->id, 'family' => $net->family()->value, 'first' => $net->first,
            'length' => $net->length, 'groups' => $kind->groups(),
            'parent_id' => $parent?->id, 'kind' => $kind, 'stage' => $this->stage, 'name' => $name, 'role' => '', 'description' => '',
            'site_id' => $site, 'vlan_id' => $vlan ?: null,
        ]);
        if ($in === null) {
            Tree::check($ledger, $space, $net, $kind->groups());
        }
        if ($kind === PrefixKind::Subnet) {
            $row->gateway = app(Inherited::class)->gatewayOf($row);
        }
        Tree::insert($row, $parent);

        return $row;
    }

    private function domain(Ledger $ledger, string $site, string $name): string
    {
        $domain = Layer2Domain::query()->where('site_id', $site)->orderBy('name')->value('id');
        if (is_string($domain)) {
            return $domain;
        }

        return Places::domain($ledger, (string) Str::ulid(), $name, $site)->id;
    }

    /** @param  array<int, true>  $taken  numbers in use in the domain */
    private function vlan(Ledger $ledger, string $domain, PlannedSubnet $subnet, array &$taken): string
    {
        $pattern = VlanPattern::tryParse($subnet->need->vlan);
        if ($pattern === null) {
            return '';
        }
        $number = $pattern->next($taken);
        if ($number === null) {
            $there = Vlan::query()->where('domain_id', $domain)->where('number', $pattern->from)->first();
            $ledger->warn(
                'vlan-taken',
                "VLAN {$subnet->need->vlan} is taken at {$subnet->need->site}".($there === null ? '' : ": {$there->line()}"),
                "{$subnet->need->purpose} is planned without a VLAN.",
                null,
                'needs',
                at('directory.list', 'vlans').'?filter='.$pattern->from,
            );

            return '';
        }
        $taken[$number] = true;
        $name = mb_strtoupper(Str::slug($subnet->need->purpose ?: 'vlan '.$number));

        return Vlans::make($ledger, $domain, $number, $name, (string) Str::ulid())->id;
    }

    private function reverse(Ledger $ledger, Net $net): void
    {
        $zones = ReverseName::zones($net);
        if (count($zones) > self::ZONES) {
            $ledger->warn(
                'many-zones',
                "$net takes ".count($zones).' reverse zones',
                'They are left out; make the zone of a shorter prefix.',
                'RFC 1035 §3.5',
                'view',
            );

            return;
        }
        $view = View::query()->find($this->view) ?? $ledger->refuse('no-view', 'There is no such view', field: 'view');
        $servers = Server::usualForZones();
        foreach ($zones as $zone) {
            if (Zones::closest($zone, $view->id) === null) {
                ZoneApex::make($ledger, new NewZone((string) Str::ulid(), (string) $zone, $view->id, $servers));
            }
        }
    }
}
