<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;
use App\Models\VlanIntent;

/** Rules of what clients may reach are taken back; what no rule speaks of is open. */
final readonly class RemoveIntent extends Act
{
    /** @param  list<string>  $intents */
    public function __construct(
        #[Field(Kind::Ids, 'Rules', of: VlanIntent::class)]
        public array $intents,
    ) {
    }

    public function title(): string
    {
        $count = count($this->intents);

        return $count === 1 ? 'Take back what a VLAN may reach' : "Take back $count rules of what VLANs may reach";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.reach');
    }

    public function apply(Ledger $ledger): void
    {
        $rows = VlanIntent::query()->with(['vlan', 'toVlan'])->whereIn('id', $this->intents)->get();
        if ($rows->isEmpty()) {
            $ledger->refuse('gone', 'The rules are not there any more');
        }
        foreach ($rows as $row) {
            $row->delete();
        }
    }
}
