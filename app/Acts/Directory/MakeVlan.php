<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Role;
use App\Models\Vlan;

/** A VLAN is added to a layer-2 domain. */
final readonly class MakeVlan extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Layer-2 domain', of: Layer2Domain::class)]
        public string $domain,
        #[Field(Kind::Number, 'Number', most: 4094, least: 1)]
        public int $number,
        #[Field(Kind::Line, 'Name', most: 60)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return "Make VLAN $this->number $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return '/directory/vlans';
    }

    public function apply(Ledger $ledger): void
    {
        self::check($ledger, $this->domain, $this->number, $this->name);
        (
            new Vlan([
                'id' => $this->id, 'domain_id' => $this->domain, 'number' => $this->number, 'name' => trim($this->name),
                'description' => $this->description,
            ])
        )->save();
    }

    /** The rules of a VLAN wherever it is written: made, changed or moved. */
    public static function check(Ledger $ledger, string $domain, int $number, string $name, ?string $except = null): void
    {
        if ($number < 1 || $number > 4094) {
            $ledger->refuse('bad-number', 'A VLAN number is 1 to 4094', standard: 'IEEE 802.1Q', field: 'number');
        }
        $in = Layer2Domain::query()->find($domain) ?? $ledger->refuse('no-domain', 'Choose a layer-2 domain', field: 'domain');
        $twin = Vlan::query()->where('domain_id', $in->id)->where('number', $number)
            ->when($except, fn ($q) => $q->whereKeyNot($except))->first();
        if ($twin !== null) {
            $ledger->refuse(
                'vlan-twice',
                "VLAN {$twin->line()} is already in $in->name",
                'A number is used once in a layer-2 domain.',
                null,
                'number',
                "/directory/vlan/$twin->id",
            );
        }
        if (trim($name) === '') {
            $ledger->refuse('no-name', 'Write the name as it is on the switch', field: 'name');
        }
    }
}
