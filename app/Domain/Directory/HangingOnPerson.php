<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Models\Draft;
use App\Models\DraftHand;
use App\Models\DraftState;
use App\Models\Grant;
use App\Models\Model;
use App\Models\NameGrant;
use App\Models\NoticeRule;
use App\Models\Person;
use App\Models\Report;
use App\Models\RightTest;
use App\Models\TeamMember;
use App\Models\Template;
use Illuminate\Database\Eloquent\Builder;

/** What somebody who leaves would leave undone, or open to nobody. What is over does not hold them: history keeps their name. */
final class HangingOnPerson
{
    /** @return list<string> each kind, counted, with the first by name */
    public static function on(Person $person): array
    {
        $found = [];
        foreach (self::queries($person->id) as $words => $query) {
            $found[] = Hanging::counted($query, $words);
        }

        return array_values(array_filter($found));
    }

    /** @return array<string, Builder<covariant Model>> */
    private static function queries(string $id): array
    {
        $goesOn = [DraftState::Open, DraftState::Submitted];

        return [
            'uncommitted drafts' => Draft::query()->where('person_id', $id)->whereIn('state', $goesOn),
            'shared drafts' => DraftHand::query()->where('person_id', $id)
                ->whereHas('draft', static fn (Builder $q) => $q->where('person_id', '!=', $id)->whereIn('state', $goesOn)),
            'teams' => TeamMember::query()->where('person_id', $id),
            'grants' => Grant::query()->where('person_id', $id),
            'granted names' => NameGrant::query()->where('person_id', $id),
            'rights tests' => RightTest::query()->where('person_id', $id),
            'reports' => Report::query()->where(
                static fn (Builder $q) => $q->where('author_id', $id)->orWhereJsonContains('people', $id),
            ),
            'notice rules' => NoticeRule::query()->where(
                static fn (Builder $q) => $q->whereJsonContains('people', $id)->orWhereJsonContains('further', $id),
            ),
            'kept templates' => Template::query()->where('keeper_id', $id),
        ];
    }
}
