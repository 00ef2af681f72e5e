<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Directory\GrantWhere;
use App\Domain\Ship\LocalTime;
use App\Models\Ability;
use App\Models\Grant;
use App\Models\Person;
use App\Models\Team;

/** Somebody, or a team, may do things at a place from now on; or a grant that is there changes. */
final readonly class KeepGrant extends OnGrants
{
    /** @param  list<string>  $does */
    public function __construct(
        #[Field(Kind::Texts, 'May', 'look, hosts, space, leases, names', most: 10)]
        public array $does,
        #[Field(
            Kind::Line, 'Where', 'A prefix, a zone, the name of a site, a tenant or a space, or "tag kiosk", "stage planned"',
            most: 200, example: '10.40.8.0/22',
        )]
        public string $where,
        #[Field(Kind::Id, 'Person', 'One of the two', of: Person::class)]
        public string $person = '',
        #[Field(Kind::Id, 'Team', of: Team::class)]
        public string $team = '',
        #[Field(Kind::Line, 'Until', 'A day or a time in UTC; blank for as long as nobody takes it back', most: 20, example: '2027-03-31')]
        public string $until = '',
        #[Field(Kind::Line, 'Why', most: 255)]
        public string $why = '',
        #[Field(Kind::NewId, 'Id', 'Of a new grant, or of the one that changes')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return Grant::query()->whereKey($this->id)->exists() ? 'Change a grant' : 'Grant something';
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("grant:$this->id");
        if (($this->person === '') === ($this->team === '')) {
            $ledger->refuse('one-holder', 'A grant is for one person, or for one team', 'Choose one of the two.', field: 'person');
        }
        $person = $this->person === '' ? null : Person::query()->find($this->person);
        $team = $this->team === '' ? null : Team::query()->find($this->team);
        $person ?? $team ?? $ledger->refuse('gone', 'Who it is for is not there any more', field: 'person');
        $does = array_values(array_filter(array_map(Ability::tryFrom(...), array_unique($this->does))));
        if ($does === [] || count($does) !== count(array_unique($this->does))) {
            $ledger->refuse('no-ability', 'Choose what they may do: look, hosts, space, leases or names', field: 'does');
        }
        [$place, $id] = GrantWhere::read($ledger, $this->where);
        foreach ($does as $ability) {
            if (! in_array($ability, $place->abilities(), true)) {
                $ledger->refuse(
                    'ability-elsewhere',
                    ucfirst($ability->words())." is nothing one does in a $place->value",
                    'Names are edited in a zone, or in the zones of a tenant; hosts, space and leases are in prefixes.',
                    field: 'does',
                );
            }
        }
        // Who grants the same to the same at the same moment waits here, and then finds it granted.
        Guard::own("grants:$id");
        $until = trim($this->until) === '' ? null : $this->end($ledger);
        $grant = Grant::query()->find($this->id) ?? new Grant(['id' => $this->id]);
        $old = $grant->exists ? clone $grant : null;
        $grant->fill([
            'person_id' => $person?->id, 'team_id' => $team?->id, 'does' => array_map(static fn (Ability $a): string => $a->value, $does),
            'place' => $place, 'place_id' => $id, 'until' => $until, 'why' => trim($this->why),
        ]);
        $grant->setRelation('person', $person)->setRelation('team', $team);
        $this->twice($ledger, $grant);
        $ledger->passed('grant-read', 'Reads: '.$grant->sentence());
        self::telling($ledger, array_values(array_filter([$grant, $old])), static function () use ($grant): void {
            $grant->save();
        });
    }

    private function end(Ledger $ledger): \DateTimeImmutable
    {
        $text = trim($this->until);
        $text = preg_match('/\A\d{4}-\d{2}-\d{2}\z/', $text) === 1 ? "$text 23:59" : $text;
        $until = LocalTime::read($ledger, $text, 'UTC', 'until');
        if ($until <= $ledger->at) {
            $ledger->refuse('time-past', 'That time is past', 'A grant that is over grants nothing.', field: 'until');
        }

        return $until;
    }

    /** The same to the same at the same place is one grant, not two of which one is taken back. */
    private function twice(Ledger $ledger, Grant $grant): void
    {
        $other = Grant::query()->where('place', $grant->place)->where('place_id', $grant->place_id)->where('person_id', $grant->person_id)
            ->where('team_id', $grant->team_id)->whereKeyNot($grant->id)->first();
        if ($other !== null) {
            $ledger->refuse(
                'granted-twice',
                $other->sentence(),
                'Change that grant instead of making a second one of the same place.',
                link: at('directory.grants')."?grant=$other->id",
            );
        }
    }
}
