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
            foreach (['name' => $this->name, 'stage' => $this->stage, 'role' => $this->role, 'description' => $this->description, 'origin' => $this->origin] as $column => $value) {
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
                $row->gateway = CarvePrefix::gateway($ledger, $row->prefix(), $this->gateway === '-' ? '' : $this->gateway, $row->kind);
                $taken = $row->gateway === null ? null : Host::query()->where('space_id', $row->space_id)->where('family', $row->family)->where('address', $row->gateway->bytes)->where('role', '!=', 'gateway')->first();
                if ($taken !== null) {
                    $ledger->warn('gateway-is-host', "{$taken->line()} is a host", 'The gateway and a host would share the address.', null, 'gateway', "/plan/prefix/$row->id?address=$taken->address");
                }
            }
            if ($row->isDirty(['site_id', 'vlan_id'])) {
                CarvePrefix::links($ledger, $row);
            }
            if ($row->isDirty('tenant_id')) {
                $row->effective_tenant_id = $row->tenant_id ?? $row->parent?->effective_tenant_id;
            }
            $row->save();
            if ($row->effective_tenant_id !== $tenant) {
                Tree::inheritTenant($row);
            }
        }
    }
}
