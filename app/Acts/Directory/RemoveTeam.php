<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\ApprovalRule;
use App\Models\Grant;
use App\Models\Person;
use App\Models\Role;
use App\Models\Team;

/** A team is no more; its people stay. */
final readonly class RemoveTeam extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Team', of: Team::class)]
        public string $team,
    ) {
    }

    public function title(): string
    {
        return 'Remove the team '.(Team::query()->find($this->team)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('directory.teams');
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("team:$this->team");
        $team = Team::query()->find($this->team) ?? $ledger->refuse('gone', 'The team is not there any more');
        $rule = ApprovalRule::query()->where('team_id', $team->id)->first();
        if ($rule !== null) {
            $ledger->refuse('team-agrees', "A rule asks $team->name", $rule->rule()->sentence().' Remove the rule first.',
                link: at('ship.rules'));
        }
        $grant = Grant::query()->where('team_id', $team->id)->first();
        if ($grant !== null) {
            $ledger->refuse('team-granted', $grant->sentence(), 'Take the grant back first.', link: at('directory.grants'));
        }
        foreach ($team->members as $member) {
            $member->delete();
        }
        $team->delete();
    }
}
