<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use HarborPost\Core\Watch\Every;
use HarborPost\Core\Watch\Timetable;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A list that somebody wants to see, on screen or again and again.
 *
 * @property string $name
 * @property FactKind $kind
 * @property ?string $site_id  with all sites below
 * @property list<array{fact: string, test: string, value: string}> $conditions
 * @property list<string> $columns
 * @property string $sort  fact, "-" before it for the largest first
 * @property string $by  fact by which rows stand together
 * @property ?Every $every  null: only looked at
 * @property int $day
 * @property string $time
 * @property string $zone
 * @property list<string> $people  ids of those who get it
 * @property bool $paused
 * @property ?string $author_id
 * @property ?CarbonImmutable $due_at
 * @property-read ?Site $site
 * @property-read ?Person $author
 */
final class Report extends Model
{
    protected $table = 'reports';

    /** @var array<string, string> */
    protected $casts = [
        'kind' => FactKind::class, 'conditions' => 'array', 'columns' => 'array', 'people' => 'array', 'paused' => 'boolean',
        'due_at' => 'immutable_datetime',
    ];

    /** @return \Illuminate\Database\Eloquent\Casts\Attribute<?Every, ?Every> */
    protected function every(): \Illuminate\Database\Eloquent\Casts\Attribute
    {
        return \Illuminate\Database\Eloquent\Casts\Attribute::make(
            static fn (mixed $v): ?Every => Every::tryFrom(is_string($v) ? $v : ''),
            static fn (?Every $v): string => $v->value ?? '',
        );
    }

    public function timetable(): ?Timetable
    {
        return $this->every === null ? null : Timetable::of($this->every, $this->day, $this->time, $this->zone);
    }

    /** @return Builder<self> one's own, those that one gets, and for stewards all */
    public static function openTo(Person $person): Builder
    {
        return self::query()->when(! ($person->does(Role::Steward) && ! $person->isBound()), static fn ($q) => $q->where(
            static fn ($any) => $any->where('author_id', $person->id)->orWhereJsonContains('people', $person->id),
        ));
    }

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    /** @return BelongsTo<Person, $this> */
    public function author(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    public static function noun(): string
    {
        return 'report';
    }

    public function line(): string
    {
        return $this->name;
    }
}
