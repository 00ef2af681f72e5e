<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Device;
use App\Models\Draft;
use App\Models\DraftEdit;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\NameGrant;
use App\Models\Nouns;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\View;
use App\Models\Vlan;
use App\Models\Zone;
use Illuminate\Database\Eloquent\Builder;

/**
 * What a person may see. Every list and every look-up starts here: somebody bound to a tenant sees what belongs to it and what is granted,
 * and is told nothing of the rest, not even that it is there.
 */
final readonly class Reach
{
    private function __construct(private ?Person $bound)
    {
    }

    public static function of(Person $person): self
    {
        return new self($person->isBound() ? $person : null);
    }

    /** What the application itself sees. */
    public static function whole(): self
    {
        return new self(null);
    }

    public function isWhole(): bool
    {
        return $this->bound === null;
    }

    /**
     * Objects of a kind by its word, as far as the person may see them; null for a kind that nobody names.
     *
     * @return Builder<covariant \App\Models\Model>|null
     */
    public function ofNoun(string $noun): ?Builder
    {
        $all = Nouns::query($noun);
        if ($noun === Person::noun()) {
            // Who left is in the history, and nowhere else.
            $all?->whereNull('people.removed_at');
        }
        if ($this->isWhole() || $all === null) {
            return $noun === Draft::noun() || $noun === DraftEdit::noun() ? null : $all;
        }

        return match ($noun) {
            Prefix::noun() => $this->prefixes(),
            Host::noun() => $this->hosts(),
            Zone::noun() => $this->zones(),
            Record::noun() => $this->records(),
            Scope::noun() => $this->scopes(),
            Vlan::noun() => $this->vlans(),
            Site::noun() => $this->sites(),
            Space::noun() => Space::query()->whereIn('spaces.id', $this->prefixes()->select('space_id')),
            Reservation::noun() => Reservation::query()->whereIn('scope_id', $this->scopes()->select('scopes.id')),
            HeldRun::noun() => HeldRun::query()->whereIn('prefix_id', $this->prefixes()->select('prefixes.id')),
            Device::noun() => Device::query()->whereIn('devices.id', $this->hosts()->whereNotNull('device_id')->select('device_id')),
            Tenant::noun() => Tenant::query()->whereKey($this->bound?->tenant_id),
            Person::noun() => Person::query()->whereKey($this->bound?->id),
            View::noun() => View::query()->whereIn('views.id', $this->zones()->select('zones.view_id')),
            default => null,
        };
    }

    /** @return Builder<Prefix> */
    public function prefixes(): Builder
    {
        return Prefix::query()->when($this->bound, fn ($q) => $q->where(fn ($p) => $this->within($p)));
    }

    /** Narrows a query over prefixes to those within reach. */
    public function within(\Illuminate\Contracts\Database\Query\Builder $query, string $table = 'prefixes'): void
    {
        if ($this->bound !== null) {
            // Of somebody without a tenant nothing belongs to it: only grants open something.
            $query->where("$table.effective_tenant_id", $this->bound->tenant_id ?? '');
            Granted::orPrefixes($this->bound, $query, $table);
        }
    }

    /** @return Builder<Host> */
    public function hosts(): Builder
    {
        return Host::query()->when($this->bound, fn ($q) => $q->whereHas('prefix', fn ($p) => $p->where(fn ($r) => $this->within($r))));
    }

    /** @return Builder<Zone> */
    public function zones(): Builder
    {
        return Zone::query()->when(
            $this->bound,
            fn ($q) => $q->where(function ($z): void {
                $this->withinZones($z);
                $z->orWhereIn('zones.id', NameGrant::query()->where('person_id', $this->bound?->id)->select('zone_id'));
            }),
        );
    }

    /** @return Builder<Record> */
    public function records(): Builder
    {
        return Record::query()->when($this->bound, fn ($q) => $q->where(
            fn ($r) => $r->whereHas('zone', fn ($z) => $z->where(fn ($y) => $this->withinZones($y)))
                ->orWhereExists(
                    fn ($g) => $g->from('name_grants')->where('name_grants.person_id', $this->bound?->id)
                        ->whereColumn('name_grants.zone_id', 'records.zone_id')
                        ->where(fn ($y) => $y->whereNull('name_grants.type')->orWhereColumn('name_grants.type', 'records.type'))
                        ->where(
                            fn ($o) => $o->whereNull('name_grants.owner')->orWhereColumn('name_grants.owner', 'records.owner')
                                ->orWhere(
                                    fn ($b) => $b->where('name_grants.below', true)
                                        ->whereRaw(
                                            "RIGHT(records.owner, CHAR_LENGTH(name_grants.owner) + 1) = CONCAT('.', name_grants.owner)",
                                        ),
                                ),
                        ),
                ),
        ));
    }

    /** Zones as wholes: those of the tenant and those granted. */
    private function withinZones(\Illuminate\Contracts\Database\Query\Builder $query): void
    {
        if ($this->bound !== null) {
            $query->where('zones.tenant_id', $this->bound->tenant_id ?? '');
            Granted::orZones($this->bound, $query);
        }
    }

    /** @return Builder<Scope> */
    public function scopes(): Builder
    {
        return Scope::query()->when($this->bound, fn ($q) => $q->whereHas('prefix', fn ($p) => $p->where(fn ($r) => $this->within($r))));
    }

    /** @return Builder<Vlan> */
    public function vlans(): Builder
    {
        return Vlan::query()->when(
            $this->bound,
            fn ($q) => $q->whereIn('vlans.id', $this->prefixes()->whereNotNull('vlan_id')->select('vlan_id')),
        );
    }

    /** @return Builder<Site> */
    public function sites(): Builder
    {
        return Site::query()->when(
            $this->bound,
            fn ($q) => $q->whereIn('sites.id', $this->prefixes()->whereNotNull('site_id')->select('site_id')),
        );
    }
}
