<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Name\Records;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\Role;
use App\Models\Zone;
use HarborPost\Core\Dns\RecordType;

/** Somebody may edit a zone, one name in it, or a name and what is below. */
final readonly class GrantName extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(Kind::Id, 'Person', of: Person::class)]
        public string $person,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Name', 'Relative to the zone; blank is the whole zone', most: 1010)]
        public string $name = '',
        #[Field(Kind::Flag, 'And below')]
        public bool $below = false,
        #[Field(Kind::Line, 'Type', 'Of the records; blank for every type', most: 20)]
        public string $type = '',
    ) {
    }

    public function title(): string
    {
        return 'Let '.(Person::query()->find($this->person)->name ?? 'somebody').' edit '.($this->name === '' ? 'the zone' : $this->name);
    }

    public static function may(Person $person): bool
    {
        return ($person->does(Role::Steward) || $person->does(Role::Planner)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('name.zone', $this->zone);
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $zone = AddRecord::zone($ledger, $this->zone);
        $person = Person::query()->find($this->person) ?? $ledger->refuse('no-person', 'Choose a person', field: 'person');
        $owner = trim($this->name) === '' ? null : (string) Records::owner($ledger, $zone, $this->name)->lower();
        $type = $this->type === ''
            ? null
            : (
                RecordType::tryParse($this->type)->number
                    ?? $ledger->refuse('type-unknown', "\"$this->type\" is no record type", field: 'type')
            );
        Guard::own("grants:$person->id");
        if (
            NameGrant::query()->where('person_id', $person->id)->where('zone_id', $zone->id)->where('owner', $owner)
                ->where('type', $type)->exists()
        ) {
            $ledger->refuse('granted-already', "$person->name has this right already", field: 'person');
        }
        if ($person->operates() && ! $person->isBound()) {
            $ledger->warn('has-role', "$person->name edits every zone by role already", '', null, 'person');
        }
        (
            new NameGrant([
                'id' => $this->id, 'person_id' => $person->id, 'zone_id' => $zone->id, 'owner' => $owner, 'below' => $this->below,
                'type' => $type,
            ])
        )->save();
    }
}
