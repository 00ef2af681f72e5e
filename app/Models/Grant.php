<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * That somebody, or a team, may do things at a place. Grants only add to what roles give.
 *
 * @property ?string $person_id  one of the two
 * @property ?string $team_id
 * @property list<string> $does  values of Ability
 * @property GrantPlace $place
 * @property string $place_id  of the object; a tag or a stage itself
 * @property ?CarbonImmutable $until
 * @property string $why
 * @property-read ?Person $person
 * @property-read ?Team $team
 */
final class Grant extends Model
{
    protected $table = 'grants';

    /** @var array<string, string> */
    protected $attributes = ['why' => ''];

    /** @var array<string, string> */
    protected $casts = ['does' => 'array', 'place' => GrantPlace::class, 'until' => 'immutable_datetime'];

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    /** @return BelongsTo<Team, $this> */
    public function team(): BelongsTo
    {
        return $this->belongsTo(Team::class);
    }

    public static function noun(): string
    {
        return 'grant';
    }

    /** @return list<Ability> */
    public function abilities(): array
    {
        return array_values(array_filter(array_map(Ability::tryFrom(...), $this->does)));
    }

    public function gives(Ability $ability): bool
    {
        foreach ($this->abilities() as $one) {
            if ($one->includes($ability)) {
                return true;
            }
        }

        return false;
    }

    public function isOver(): bool
    {
        return $this->until !== null && ! $this->until->isFuture();
    }

    public function holder(): string
    {
        return $this->person->name ?? ($this->team === null ? 'nobody' : "the team {$this->team->name}");
    }

    /** @return ?Model null: it is not there any more, and nothing is granted; or it is told by a word */
    public function at(): ?Model
    {
        $model = $this->place->model();

        return $model === null ? null : $model::query()->find($this->place_id);
    }

    /** "in 10.40.8.0/22", "at Tarbeck and below"; null: what it named is gone. */
    public function where(): ?string
    {
        $at = $this->at();

        return match (true) {
            $this->place === GrantPlace::Tag => "in prefixes tagged $this->place_id",
            $this->place === GrantPlace::Stage => "in prefixes that are $this->place_id",
            $at instanceof Prefix => "in {$at->prefix()}".($at->name === '' ? '' : " $at->name"),
            $at instanceof Site => "at $at->name and what lies in it",
            $at instanceof Space => "in the space $at->name",
            $at instanceof Tenant => "in what belongs to $at->name",
            $at instanceof Zone => "in {$at->title()}",
            default => null,
        };
    }

    public function sentence(): string
    {
        $does = array_map(static fn (Ability $a): string => $a->words(), $this->abilities());
        $last = array_pop($does);

        return ucfirst($this->holder()).' may '.($does === [] ? $last : implode(', ', $does)." and $last").' '
            .($this->where() ?? 'where nothing is any more')
            .($this->until === null ? '' : ', until '.$this->until->format('Y-m-d H:i').' UTC');
    }

    public function line(): string
    {
        return $this->sentence();
    }
}
