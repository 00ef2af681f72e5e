<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * What a program shows to act for a person; only its hash is kept.
 *
 * @property string $person_id
 * @property string $name
 * @property string $hash
 * @property bool $writes
 * @property bool $calendar  it is the address of the calendar of what is due, and opens nothing else
 * @property ?list<string> $acts  keys of the acts it may do; null: all that its person may
 * @property ?CarbonImmutable $expires_at
 * @property ?CarbonImmutable $last_used_at
 * @property ?CarbonImmutable $revoked_at
 * @property CarbonImmutable $made_at
 * @property-read Person $person
 */
final class Token extends Model
{
    /** In front of every token, so that one is known when it lies somewhere. */
    public const MARK = 'hp_';

    /** Seconds between two notes of the last use. */
    private const NOTED = 60;

    protected $table = 'tokens';

    /** @var array<string, string> */
    protected $casts = [
        'writes' => 'boolean', 'calendar' => 'boolean', 'acts' => 'array', 'expires_at' => 'immutable_datetime',
        'last_used_at' => 'immutable_datetime', 'revoked_at' => 'immutable_datetime', 'made_at' => 'immutable_datetime',
    ];

    public static function hashOf(string $secret): string
    {
        return hash('sha256', $secret);
    }

    public function holds(): bool
    {
        return $this->revoked_at === null && ($this->expires_at === null || $this->expires_at->isFuture()) && $this->person->active;
    }

    public function lets(string $key): bool
    {
        return $this->writes && ($this->acts === null || in_array($key, $this->acts, true));
    }

    /** Notes that it was shown, now and then. */
    public function used(): void
    {
        if ($this->last_used_at === null || $this->last_used_at->diffInSeconds(now()) >= self::NOTED) {
            self::query()->whereKey($this->id)->toBase()->update(['last_used_at' => now()]);
        }
    }

    /** In words. */
    public function may(): string
    {
        return match (true) {
            $this->calendar => 'read what is due, as a calendar',
            ! $this->writes => 'read',
            $this->acts === null => 'read, and do all your acts',
            default => 'read, and '.implode(', ', $this->acts),
        };
    }

    /** @return BelongsTo<Person, $this> */
    public function person(): BelongsTo
    {
        return $this->belongsTo(Person::class);
    }

    public static function noun(): string
    {
        return 'token';
    }

    public static function secret(): array
    {
        return ['hash'];
    }

    public function line(): string
    {
        return "token $this->name";
    }
}
