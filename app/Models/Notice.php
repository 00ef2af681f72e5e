<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Something that is wrong or will be: one a cause, until it is over.
 *
 * @property NoticeKind $kind
 * @property ?string $cause  null once it is over
 * @property string $title
 * @property string $words
 * @property string $link
 * @property CarbonImmutable $since
 * @property ?CarbonImmutable $told_at
 * @property ?CarbonImmutable $over_at
 * @property ?string $taken_by
 * @property ?CarbonImmutable $taken_at
 * @property ?CarbonImmutable $quiet_until
 * @property ?CarbonImmutable $raised_at  others were told, since nobody looked after it
 * @property-read ?Person $taker
 */
final class Notice extends Model
{
    protected $table = 'notices';

    /** @var array<string, string> */
    protected $casts = [
        'kind' => NoticeKind::class, 'since' => 'immutable_datetime', 'told_at' => 'immutable_datetime', 'over_at' => 'immutable_datetime',
        'taken_at' => 'immutable_datetime', 'quiet_until' => 'immutable_datetime',
        'raised_at' => 'immutable_datetime',
    ];

    /** Where it leads, when that page is open to the person: tests of rights stand with people, whom stewards alone see. */
    public function leads(Person $person): ?string
    {
        return $this->kind === NoticeKind::Right && ! $person->does(Role::Steward) ? null : $this->link;
    }

    /** @return Builder<self> those that people are told of now */
    public static function open(): Builder
    {
        return self::query()->whereNull('over_at')->whereNotNull('told_at');
    }

    /** @return Builder<self> those that nobody looks after yet */
    public static function calling(): Builder
    {
        return self::open()->whereNull('taken_by')->where(static fn ($q) => $q->whereNull('quiet_until')
            ->orWhere('quiet_until', '<', now()));
    }

    /** How many call for a person: for everybody who works on everything, or for those whom the rule of its kind names. */
    public static function callingFor(?Person $person): int
    {
        if ($person === null || $person->isBound() || ! $person->operatesAll()) {
            return 0;
        }

        return self::callsFor($person)->count();
    }

    /** @return Builder<self> those that call for a person who works on everything */
    public static function callsFor(Person $person): Builder
    {
        $id = "\"$person->id\"";

        return self::calling()->whereNotExists(static fn ($q) => $q->from('notice_rules')->whereColumn('notice_rules.kind', 'notices.kind')
            ->whereRaw('JSON_LENGTH(notice_rules.people) > 0 AND NOT JSON_CONTAINS(notice_rules.people, ?)', [$id])
            ->whereRaw('NOT (notices.raised_at IS NOT NULL AND JSON_CONTAINS(COALESCE(notice_rules.further, \'[]\'), ?))', [$id]));
    }

    /** @return BelongsTo<Person, $this> */
    public function taker(): BelongsTo
    {
        return $this->belongsTo(Person::class, 'taken_by');
    }

    public static function noun(): string
    {
        return 'notice';
    }

    public function line(): string
    {
        return $this->title;
    }
}
