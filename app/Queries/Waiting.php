<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Draft;
use App\Models\DraftState;
use App\Models\Person;
use App\Models\Role;
use Illuminate\Database\Eloquent\Builder;

/** What waits for a person. */
final class Waiting
{
    /** @return Builder<Draft> submitted drafts of others that this approver has not decided on as they are now, the oldest first */
    public static function drafts(Person $person): Builder
    {
        $may = $person->does(Role::Approver) && ! $person->isBound();

        return Draft::query()->where('state', DraftState::Submitted)->where('person_id', '!=', $person->id)
            ->whereDoesntHave('edits', fn (Builder $e) => $e->where('person_id', $person->id))
            ->when(! $may, fn (Builder $q) => $q->whereRaw('1 = 0'))
            ->whereDoesntHave('decisions', fn (Builder $d) => $d->where('person_id', $person->id)->whereNull('void_at'))
            ->orderBy('submitted_at');
    }
}
