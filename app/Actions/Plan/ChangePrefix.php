<?php

declare(strict_types=1);

namespace App\Actions\Plan;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Role;

/** What is known of one prefix or of a selection is changed. A field that is not given stays as it is; '-' empties it. */
final readonly class ChangePrefix extends Action
{
    /** @param  list<string>  $prefixes */
    public function __construct(
        public array $prefixes,
        public ?string $name = null,
        public ?string $stage = null,
        public ?string $site = null,
        public ?string $tenant = null,
        public ?string $vlan = null,
        public ?string $gateway = null,
        public ?string $role = null,
        public ?string $description = null,
        public ?string $origin = null,
        public ?string $originOn = null,
        public ?string $originHandle = null,
        public ?string $kind = null,
        /** apart by commas; +tag adds, -tag takes away */
        public ?string $tags = null,
        /** @var array<string, string> own field → value */
        public array $own = [],
    ) {
    }

    public function title(): string
    {
        return count($this->prefixes) === 1 ? 'Change one prefix' : 'Change '.count($this->prefixes).' prefixes';
    }

    public function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return '/plan/prefix/'.($this->prefixes[0] ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        if ($this->stage !== null && ! in_array($this->stage, CarvePrefix::STAGES, true)) {
            $ledger->refuse('bad-stage', 'The stage is planned, live, retiring or withheld', field: 'stage');
        }
        $rows = Prefix::query()->whereIn('id', $this->prefixes)->lockForUpdate()->get();
        if ($rows->count() !== count(array_unique($this->prefixes)) || $rows->isEmpty()) {
            $ledger->refuse('gone', 'A prefix of the selection is not there any more', field: 'prefixes');
        }
        foreach ($rows as $row) {
            $tenant = $row->effective_tenant_id;
            foreach (['name' => $this->name, 'stage' => $this->stage, 'role' => $this->role, 'description' => $this->description] as $column => $value) {
                if ($value !== null) {
                    $row->$column = $value === '-' ? '' : $value;
                }
            }
            foreach (['site_id' => $this->site, 'tenant_id' => $this->tenant, 'vlan_id' => $this->vlan] as $column => $value) {
                if ($value !== null) {
                    $row->$column = $value === '-' || $value === '' ? null : $value;
                }
            }
            if ($this->gateway !== null) {
                $habit = in_array($this->gateway, ['first', 'last'], true) ? (string) \App\Queries\Inherited::gatewayBy($this->gateway, $row->prefix()) : null;
                $row->gateway = CarvePrefix::gateway($ledger, $row->prefix(), $this->gateway === '-' ? '' : $habit ?? $this->gateway, $row->kind);
                $taken = $row->gateway === null ? null : Host::query()->where('space_id', $row->space_id)->where('family', $row->family)->where('address', $row->gateway->bytes)->where('role', '!=', 'gateway')->first();
                if ($taken !== null) {
                    $ledger->warn('gateway-is-host', "{$taken->line()} is a host", 'The gateway and a host would share the address.', null, 'gateway', "/plan/prefix/$row->id?address=$taken->address");
                }
            }
            Labels::origin($ledger, $row, $this->origin, $this->originOn, $this->originHandle);
            $this->tags === null ?: Labels::tag($ledger, $row, $this->tags);
            Labels::own($ledger, $row, $this->own);
            if ($this->kind !== null && $this->kind !== $row->kind) {
                Tree::turn($ledger, $row, $this->kind);
            }
            if ($row->isDirty(['site_id', 'vlan_id'])) {
                CarvePrefix::links($ledger, $row);
            }
            if ($row->isDirty('tenant_id')) {
                $row->effective_tenant_id = $row->tenant_id ?? $row->parent?->effective_tenant_id;
            }
            $tagged = $row->isDirty('tags');
            $row->save();
            $tagged && Labels::index($row);
            $this->gateway === null ?: CarvePrefix::sayHabit($ledger, $row);
            if ($row->effective_tenant_id !== $tenant) {
                Tree::inheritTenant($row);
            }
        }
    }
}
