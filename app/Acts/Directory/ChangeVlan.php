<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\Vlans;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Role;
use App\Models\Tenant;
use App\Models\Vlan;

/** A VLAN gets another number, name, description or domain. */
final readonly class ChangeVlan extends Act
{
    use Renames;

    public function __construct(
        #[Field(Kind::Id, 'VLAN', of: Vlan::class, dash: true)]
        public string $vlan,
        #[Field(Kind::Number, 'Number', most: 4094, least: 1)]
        public ?int $number = null,
        #[Field(Kind::Line, 'Name', most: 60)]
        public ?string $name = null,
        #[Field(Kind::Id, 'Layer-2 domain', of: Layer2Domain::class)]
        public ?string $domain = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
        #[Field(Kind::Id, 'Owner', of: Tenant::class, dash: true)]
        public ?string $tenant = null,
    ) {
    }

    public function title(): string
    {
        return 'Change VLAN '.(Vlan::query()->find($this->vlan)?->line() ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.vlan', $this->vlan);
    }

    public function apply(Ledger $ledger): void
    {
        $vlan = Vlan::query()->lockForUpdate()->find($this->vlan) ?? $ledger->refuse('gone', 'The VLAN is not there any more');
        $vlan->number = $this->number ?? $vlan->number;
        $vlan->name = $this->name === null ? $vlan->name : trim($this->name);
        $vlan->domain_id = $this->domain ?? $vlan->domain_id;
        $vlan->description = $this->description === null ? $vlan->description : ($this->description === '-' ? '' : $this->description);
        $vlan->tenant_id = self::chosen($this->tenant, $vlan->tenant_id);
        Vlans::check($ledger, $vlan->domain_id, $vlan->number, $vlan->name, $vlan->id);
        if ($vlan->isDirty('domain_id')) {
            $site = Layer2Domain::query()->find($vlan->domain_id)?->site_id;
            $elsewhere = Prefix::query()->where('vlan_id', $vlan->id)->whereNotNull('site_id')->where('site_id', '!=', $site)->first();
            if ($site !== null && $elsewhere !== null) {
                $ledger->warn(
                    'vlan-other-site',
                    "{$elsewhere->line()} is at another site than the new domain",
                    'Assign the subnet to another VLAN, or mend its site.',
                    null,
                    'domain',
                    at('plan.prefix', $elsewhere->id),
                );
            }
        }
        $vlan->save();
    }
}
