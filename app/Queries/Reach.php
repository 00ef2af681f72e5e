<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Host;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Scope;
use App\Models\Site;
use App\Models\Vlan;
use App\Models\Zone;
use Illuminate\Database\Eloquent\Builder;

/**
 * What a person may see. Every list and every look-up starts here: somebody bound to a tenant sees what belongs to it and is
 * told nothing of the rest, not even that it is there.
 */
final readonly class Reach
{
    private function __construct(private ?string $tenant, private string $person = '')
    {
    }

    public static function of(Person $person): self
    {
        return new self($person->tenant_id, $person->id);
    }

    public function isWhole(): bool
    {
        return $this->tenant === null;
    }

    /** @return Builder<Prefix> */
    public function prefixes(): Builder
    {
        return Prefix::query()->when($this->tenant, fn ($q) => $q->where('prefixes.effective_tenant_id', $this->tenant));
    }

    /** @return Builder<Host> */
    public function hosts(): Builder
    {
        return Host::query()->when($this->tenant, fn ($q) => $q->whereHas('prefix', fn ($p) => $p->where('effective_tenant_id', $this->tenant)));
    }

    /** @return Builder<Zone> */
    public function zones(): Builder
    {
        return Zone::query()->when($this->tenant, fn ($q) => $q->where(fn ($z) => $z->where('zones.tenant_id', $this->tenant)->orWhereIn('zones.id', NameGrant::query()->where('person_id', $this->person)->select('zone_id'))));
    }

    /** @return Builder<Record> */
    public function records(): Builder
    {
        return Record::query()->when($this->tenant, fn ($q) => $q->where(fn ($r) => $r->whereHas('zone', fn ($z) => $z->where('tenant_id', $this->tenant))
            ->orWhereExists(fn ($g) => $g->from('name_grants')->where('name_grants.person_id', $this->person)->whereColumn('name_grants.zone_id', 'records.zone_id')->where(fn ($y) => $y->whereNull('name_grants.type')->orWhereColumn('name_grants.type', 'records.type'))
                ->where(fn ($o) => $o->whereNull('name_grants.owner')->orWhereColumn('name_grants.owner', 'records.owner')->orWhere(fn ($b) => $b->where('name_grants.below', true)->whereRaw("records.owner LIKE CONCAT('%.', name_grants.owner)"))))));
    }

    /** @return Builder<Scope> */
    public function scopes(): Builder
    {
        return Scope::query()->when($this->tenant, fn ($q) => $q->whereHas('prefix', fn ($p) => $p->where('effective_tenant_id', $this->tenant)));
    }

    /** @return Builder<Vlan> */
    public function vlans(): Builder
    {
        return Vlan::query()->when($this->tenant, fn ($q) => $q->whereIn('vlans.id', $this->prefixes()->whereNotNull('vlan_id')->select('vlan_id')));
    }

    /** @return Builder<Site> */
    public function sites(): Builder
    {
        return Site::query()->when($this->tenant, fn ($q) => $q->whereIn('sites.id', $this->prefixes()->whereNotNull('site_id')->select('site_id')));
    }
}
