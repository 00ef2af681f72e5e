<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Somebody who is in a team.
 *
 * @property string $team_id
 * @property string $person_id
 * @property-read Team $team
 * @property-read Person $person
 */
final class TeamMember extends Model
{
    protected $table = 'team_members';

    public function versioned(): bool
    {
        return false;
    }

    /** @return BelongsTo<Team, $this> */
    public function team(): BelongsTo
    {
        return $this->belongsTo(Team::class);
    }

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    public static function noun(): string
    {
        return 'member of a team';
    }

    public static function withinColumn(): string
    {
        return 'team_id';
    }

    public function line(): string
    {
        return "{$this->person->name} in {$this->team->name}";
    }
}
