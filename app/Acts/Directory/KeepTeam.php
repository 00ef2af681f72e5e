<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\ApprovalRule;
use App\Models\Person;
use App\Models\Role;
use App\Models\Team;
use App\Models\TeamMember;

/** A team is made or changed: its name, and who is in it. */
final readonly class KeepTeam extends Act
{
    /** @param  list<string>  $people */
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 80)]
        public string $name,
        #[Field(Kind::NewId, 'Id', 'Of a new team, or of the one that changes')]
        public string $id = '',
        #[Field(Kind::Ids, 'People', of: Person::class)]
        public array $people = [],
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
        #[Field(Kind::Line, 'Group at the provider', 'Who is in it follows that group, at each sign-in; blank: decided here', most: 190)]
        public string $group = '',
    ) {
    }

    public function title(): string
    {
        return (Team::query()->whereKey($this->id)->exists() ? 'Change' : 'Make')." the team $this->name";
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

    public static function guarded(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("team:$this->id");
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A team needs a name', field: 'name');
        }
        if (Team::query()->where('name', trim($this->name))->whereKeyNot($this->id)->exists()) {
            $ledger->refuse('name-taken', "\"$this->name\" is a team already", field: 'name');
        }
        $wanted = Person::query()->whereIn('id', $this->people)->orderBy('name')->get();
        if ($wanted->count() !== count(array_unique($this->people))) {
            $ledger->refuse('gone', 'Somebody of the selection is not there any more', field: 'people');
        }
        $team = Team::query()->find($this->id) ?? new Team(['id' => $this->id]);
        $team->fill([
            'name' => trim($this->name), 'description' => $this->description, 'outside_group' => trim($this->group),
        ]);
        $now = TeamMember::query()->where('team_id', $team->id)->get()->keyBy('person_id');
        // Who is in it is a part of the team: whoever saw it with others has not seen this.
        if ($team->exists && $now->keys()->sort()->values()->all() !== $wanted->pluck('id')->sort()->values()->all()) {
            $team->version++;
        }
        $team->save();
        foreach ($now->except($wanted->modelKeys()) as $gone) {
            $gone->delete();
        }
        foreach ($wanted->reject(static fn (Person $p): bool => $now->has($p->id)) as $person) {
            (new TeamMember(['team_id' => $team->id, 'person_id' => $person->id]))->save();
        }
        foreach (ApprovalRule::query()->where('team_id', $team->id)->where('active', true)->get() as $rule) {
            self::sayFew($ledger, $rule);
        }
    }

    /** A team that a rule asks has to have enough people who may agree, besides the author. */
    public static function sayFew(Ledger $ledger, ApprovalRule $rule): void
    {
        $some = $rule->team_id === null ? Person::query() : Person::query()
            ->whereIn('id', TeamMember::query()->where('team_id', $rule->team_id)->select('person_id'));
        $approvers = $some->get()->filter(static fn (Person $p): bool => $p->agrees())
            ->count();
        if ($approvers >= $rule->needs + 1) {
            return;
        }
        $of = $rule->team === null ? '' : " of {$rule->team->name}";
        $ledger->warn(
            'few-approvers',
            match ($approvers) {
                0 => "Nobody$of is an approver",
                1 => "1 person$of is an approver",
                default => "$approvers people$of are approvers",
            },
            'A draft of an approver needs others to agree: such changes may find nobody. Give more people the role.',
            null,
            'needs',
            at('directory.list', 'people'),
        );
    }
}
