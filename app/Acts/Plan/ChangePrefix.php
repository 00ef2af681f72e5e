<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Lease\LinkShare;
use App\Domain\Plan\Labels;
use App\Domain\Plan\Leader;
use App\Domain\Plan\Tree;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\Site;
use App\Models\Stage;
use App\Models\Tenant;
use App\Models\Vlan;
use App\Queries\Granted;
use App\Queries\Inherited;
use App\Queries\InUse;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Net\Address;

/** What is known of one prefix or of a selection is changed. A field that is not given stays as it is; '-' empties it. */
final readonly class ChangePrefix extends Act
{
    /** @param  list<string>  $prefixes */
    public function __construct(
        #[Field(Kind::Ids, 'Prefixes', of: Prefix::class)]
        public array $prefixes,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Choice, 'Stage', choices: ['planned', 'live', 'retiring', 'withheld'])]
        public ?string $stage = null,
        #[Field(Kind::Id, 'Site', of: Site::class, dash: true)]
        public ?string $site = null,
        #[Field(Kind::Id, 'Tenant', of: Tenant::class, dash: true)]
        public ?string $tenant = null,
        #[Field(Kind::Id, 'VLAN', of: Vlan::class, dash: true)]
        public ?string $vlan = null,
        #[Field(Kind::Line, 'Gateway', most: 60)]
        public ?string $gateway = null,
        #[Field(Kind::Line, 'Role', most: 60)]
        public ?string $role = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
        #[Field(Kind::Line, 'Origin', most: 255)]
        public ?string $origin = null,
        #[Field(Kind::Line, 'Allocated on', most: 20)]
        public ?string $originOn = null,
        #[Field(Kind::Line, 'Handle', most: 60)]
        public ?string $originHandle = null,
        #[Field(Kind::Choice, 'Kind', choices: ['supernet', 'subnet', 'pool'])]
        public ?string $kind = null,
        #[Field(Kind::Line, 'Tags', 'Apart by commas; +tag adds, -tag takes away', most: 1000)]
        public ?string $tags = null,
        /** @var array<string, string> own field → value */
        #[Field(Kind::Map, 'Own fields', most: 255)]
        public array $own = [],
    ) {
    }

    public function title(): string
    {
        return count($this->prefixes) === 1 ? 'Change one prefix' : 'Change '.count($this->prefixes).' prefixes';
    }

    public static function may(Person $person): bool
    {
        return Granted::plans($person);
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefixes[0] ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        if ($this->stage !== null && Stage::tryFrom($this->stage) === null) {
            $ledger->refuse('bad-stage', 'The stage is planned, live, retiring or withheld', field: 'stage');
        }
        $rows = Prefix::query()->whereIn('id', $this->prefixes)->lockForUpdate()->get();
        if ($rows->count() !== count(array_unique($this->prefixes)) || $rows->isEmpty()) {
            $ledger->refuse('gone', 'A prefix of the selection is not there any more', field: 'prefixes');
        }
        foreach ($rows as $row) {
            $this->change($ledger, $row);
        }
    }

    private function change(Ledger $ledger, Prefix $row): void
    {
        $tenant = $row->effective_tenant_id;
        $this->setColumns($row);
        $this->gateway === null ?: $this->setGateway($ledger, $row, $this->gateway);
        Labels::origin($ledger, $row, $this->origin, $this->originOn, $this->originHandle);
        $this->tags === null ?: Labels::tag($ledger, $row, $this->tags);
        Labels::own($ledger, $row, $this->own);
        if ($this->kind !== null && $this->kind !== $row->kind->value) {
            $kind = PrefixKind::tryFrom($this->kind) ?? $ledger->refuse('bad-kind', 'The kind is supernet, subnet or pool', field: 'kind');
            Tree::turn($ledger, $row, $kind);
        }
        $row->isDirty(['site_id', 'vlan_id']) ? CarvePrefix::links($ledger, $row) : null;
        if ($row->isDirty('tenant_id')) {
            $row->effective_tenant_id = $row->tenant_id ?? $row->parent?->effective_tenant_id;
        }
        $tagged = $row->isDirty('tags');
        $row->isDirty(['name', 'gateway']) ? Leader::say($ledger, $row->space_id, $row->prefix()) : null;
        $links = $row->isDirty('vlan_id') ? [$row->getOriginal('vlan_id'), $row->vlan_id] : [];
        $row->save();
        $links === [] ?: LinkShare::moved($ledger, $row, ...$links);
        $tagged && Labels::index($row);
        $this->gateway === null ?: CarvePrefix::sayHabit($ledger, $row);
        $row->effective_tenant_id === $tenant ?: Tree::inheritTenant($row);
    }

    /** What stands in one column: null leaves it, a dash empties it. */
    private function setColumns(Prefix $row): void
    {
        foreach (['name' => $this->name, 'role' => $this->role, 'description' => $this->description] as $column => $value) {
            if ($value !== null) {
                $row->$column = $value === '-' ? '' : $value;
            }
        }
        $row->stage = $this->stage === null ? $row->stage : Stage::from($this->stage);
        foreach (['site_id' => $this->site, 'tenant_id' => $this->tenant, 'vlan_id' => $this->vlan] as $column => $value) {
            if ($value !== null) {
                $row->$column = $value === '-' || $value === '' ? null : $value;
            }
        }
    }

    /** @param  string  $typed  an address, a habit, or a dash for none */
    private function setGateway(Ledger $ledger, Prefix $row, string $typed): void
    {
        $habit = in_array($typed, ['first', 'last'], true) ? (string) Inherited::gatewayBy($typed, $row->prefix()) : null;
        $gateway = CarvePrefix::gateway($ledger, $row->prefix(), $typed === '-' ? '' : $habit ?? $typed, $row->kind);
        $row->gateway = $gateway;
        if ($gateway === null) {
            return;
        }
        $row->isDirty('gateway') ? self::checkLeases($ledger, $row, $gateway) : null;
        $taken = Host::query()->where('space_id', $row->space_id)->where('family', $row->family)
            ->where('address', $gateway->bytes)->where('role', '!=', 'gateway')->first();
        if ($taken !== null) {
            $ledger->warn(
                'gateway-is-host',
                "{$taken->line()} is a host",
                'The gateway and a host would share the address.',
                null,
                'gateway',
                at('plan.prefix', $row->id)."?address=$taken->address",
            );
        }
    }

    /** A gateway that a server leases out, or that the scope does not tell its clients. */
    private static function checkLeases(Ledger $ledger, Prefix $row, Address $gateway): void
    {
        Guard::own("ranges:$row->id");
        $scope = Scope::query()->with(['ranges', 'optionValues'])->where('prefix_id', $row->id)->first();
        $range = $scope?->ranges->first(fn (ScopeRange $r): bool => $r->range()->contains($gateway));
        if ($range !== null) {
            $ledger->refuse(
                'gateway-in-range',
                "$gateway is inside the range {$range->range()}",
                'A server would lease it out. Shorten the range first.',
                null,
                'gateway',
                at('lease.scope', $range->scope_id),
            );
        }
        $lease = InUse::activeLeases()->where('address', $gateway->bytes)->where('scope_id', $scope?->id)->first();
        if ($lease !== null) {
            $ledger->warn(
                'gateway-leased',
                "$gateway is leased to ".($lease->mac ?? 'a client').' until '.$lease->ends_at->format('j M H:i'),
                'Two would answer for it until then.',
                null,
                'gateway',
                at('lease.lease', $lease->id),
            );
        }
        $router = $scope?->optionValues->firstWhere('code', OptionTable::ROUTER);
        if ($router !== null && ! in_array((string) $gateway, $router->values ?? [], true)) {
            $ledger->warn(
                'router-not-gateway',
                "The scope $scope->name sends the router ".implode(', ', $router->values ?? []),
                'Its clients would not use the new gateway.',
                'RFC 2132 §3.5',
                'gateway',
                at('lease.scope', $scope->id),
            );
        }
    }
}
