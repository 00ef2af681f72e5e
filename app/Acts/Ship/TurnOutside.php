<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Leads;
use App\Models\Outside;
use App\Models\Person;
use App\Models\Role;
use HarborPost\Core\Planning\Sides\State;
use Illuminate\Support\Facades\DB;

/** Which side leads from now on, and whether the other is kept in step by itself. */
final readonly class TurnOutside extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Outside system', of: Outside::class)]
        public string $outside,
        #[Field(Kind::Choice, 'Leads', choices: ['nobody', 'here', 'there'])]
        public string $leads = 'nobody',
        #[Field(Kind::Flag, 'By itself', 'The other side is brought in step every few minutes')]
        public bool $keeps = false,
    ) {
    }

    public function title(): string
    {
        return 'Say who leads: the plan, or '.(Outside::query()->find($this->outside)->name ?? 'the other');
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('ship.outside.one', $this->outside);
    }

    public function apply(Ledger $ledger): void
    {
        $row = Outside::query()->find($this->outside) ?? $ledger->refuse('gone', 'It is not there any more');
        $leads = Leads::tryFrom($this->leads) ?? $ledger->refuse('bad-leads', 'Choose who leads: nobody, here or there', field: 'leads');
        if ($this->keeps && $leads === Leads::Nobody) {
            $ledger->refuse('nobody-leads', 'Where nobody leads, nobody follows', 'Say first which side leads.', field: 'leads');
        }
        $row->fill(['leads' => $leads, 'keeps' => $this->keeps])->save();
        $state = DB::table('outside_states')->where('outside_id', $row->id)->whereNotNull('compared_at')->first();
        if ($state === null) {
            $leads === Leads::Nobody ?: $ledger->warn('not-compared', 'It was not compared yet: nobody knows what that would change');

            return;
        }
        $counts = (array) json_decode((string) $state->counts, true);
        $missing = $leads === Leads::Here ? State::MissingThere : State::MissingHere;
        $only = $leads === Leads::Here ? State::MissingHere : State::MissingThere;
        $n = static fn (State $s): int => (int) ($counts[$s->value] ?? 0);
        $where = $leads === Leads::Here ? "at $row->name" : 'in the plan';
        $leads === Leads::Nobody ?: $ledger->later(
            "By the comparison of $state->compared_at UTC: {$n(State::Differs)} are changed and {$n($missing)} made $where"
                .($this->keeps ? ' by itself' : ' when somebody brings them').", {$n($only)} that only the other side has stay",
        );
    }
}
