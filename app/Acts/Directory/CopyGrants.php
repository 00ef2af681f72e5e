<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Grant;
use App\Models\GrantPlace;
use App\Models\Person;
use App\Models\Team;
use App\Models\Tenant;

/** All grants in what belongs to one tenant are made for another tenant too, for one person or team. */
final readonly class CopyGrants extends OnGrants
{
    public function __construct(
        #[Field(Kind::Id, 'From', of: Tenant::class)]
        public string $from,
        #[Field(Kind::Id, 'To', of: Tenant::class)]
        public string $to,
        #[Field(Kind::Id, 'Person', 'One of the two', of: Person::class)]
        public string $person = '',
        #[Field(Kind::Id, 'Team', of: Team::class)]
        public string $team = '',
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return 'Copy the grants of '.(Tenant::query()->find($this->from)->name ?? 'a tenant').' to '
            .(Tenant::query()->find($this->to)->name ?? 'another');
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        if (($this->person === '') === ($this->team === '')) {
            $ledger->refuse('one-holder', 'A grant is for one person, or for one team', 'Choose one of the two.', field: 'person');
        }
        if ($this->from === $this->to) {
            $ledger->refuse('same-tenant', 'That is the same tenant', field: 'to');
        }
        Guard::own("grants:$this->to");
        $grants = Grant::query()->with(['person', 'team'])->where('place', GrantPlace::Tenant)->where('place_id', $this->from)
            ->orderBy('id')->get()->reject(static fn (Grant $g): bool => $g->isOver());
        if ($grants->isEmpty()) {
            $ledger->refuse('no-grants', 'Nothing is granted in what belongs to that tenant', field: 'from');
        }
        $there = Grant::query()->where('place', GrantPlace::Tenant)->where('place_id', $this->to)
            ->where('person_id', $this->person ?: null)->where('team_id', $this->team ?: null)->first();
        // What several grants give is one grant of the one who gets it.
        $does = $grants->flatMap(static fn (Grant $g): array => $g->does)->concat($there->does ?? [])->unique()->values()->all();
        // Of different ends the earliest: nobody gets anything for longer than it was meant.
        $ends = $grants->pluck('until')->push($there?->until)->filter();
        $copy = $there ?? new Grant(['id' => $this->id]);
        $copy->fill([
            'person_id' => $this->person ?: null, 'team_id' => $this->team ?: null, 'does' => $does, 'place' => GrantPlace::Tenant,
            'place_id' => $this->to, 'until' => $ends->min(),
            'why' => $grants->pluck('why')->filter()->first() ?? '',
        ]);
        $copy->unsetRelations();
        $ledger->passed('grant-read', 'Reads: '.$copy->sentence());
        self::telling($ledger, [$copy], static function () use ($copy): void {
            $copy->save();
        });
    }
}
