<?php

declare(strict_types=1);

namespace App\Actions\Directory;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Role;

/** A layer-2 domain, in which a VLAN number is unique, is added. */
final readonly class MakeDomain extends Action
{
    public function __construct(public string $name, public string $id = '', public string $site = '')
    {
    }

    public function title(): string
    {
        return "Make the layer-2 domain $this->name";
    }

    public function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return '/directory/vlans';
    }

    public function apply(Ledger $ledger): void
    {
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        $twin = Layer2Domain::query()->where('name', trim($this->name))->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "\"{$twin->name}\" exists already", field: 'name');
        }
        (new Layer2Domain(['id' => $this->id, 'name' => trim($this->name), 'site_id' => $this->site ?: null]))->save();
    }
}
