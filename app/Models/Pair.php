<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Exchange\Pair\PairTerms;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * Two DHCP servers that lease the same addresses and tell each other.
 *
 * @property string $name
 * @property string $first_id
 * @property string $second_id
 * @property PairMode $mode
 * @property int $percent
 * @property int $lead  seconds
 * @property list<array{id: string, secret: string, made: string}> $keys  the newest last
 * @property ?string $off_id  the server that somebody said is off, last
 * @property ?CarbonImmutable $off_at
 * @property string $description
 * @property-read Server $first
 * @property-read Server $second
 */
final class Pair extends Model
{
    protected $table = 'pairs';

    /** @var array<string, string> */
    protected $casts = ['mode' => PairMode::class, 'keys' => 'encrypted:array', 'percent' => 'integer', 'lead' => 'integer',
        'off_at' => 'immutable_datetime'];

    protected $hidden = ['keys'];

    public static function secret(): array
    {
        return ['keys'];
    }

    /** @return BelongsTo<Server, $this> */
    public function first(): BelongsTo
    {
        return $this->belongsTo(Server::class, 'first_id');
    }

    /** @return BelongsTo<Server, $this> */
    public function second(): BelongsTo
    {
        return $this->belongsTo(Server::class, 'second_id');
    }

    /** @return HasMany<Scope, $this> */
    public function scopes(): HasMany
    {
        return $this->hasMany(Scope::class);
    }

    /** @return array<string, Server> side → server, the first one first */
    public function servers(): array
    {
        return ['first' => $this->first, 'second' => $this->second];
    }

    public function partnerOf(string $server): Server
    {
        return $this->first_id === $server ? $this->second : $this->first;
    }

    public function terms(): PairTerms
    {
        return $this->mode === PairMode::Standby
            ? PairTerms::standby($this->percent, $this->lead)
            : PairTerms::balanced($this->percent, $this->lead);
    }

    public function leadWords(): string
    {
        return Ttl::of($this->lead)->spoken();
    }

    /** @return array{id: string, secret: string} a new key, drawn */
    public static function drawKey(): array
    {
        return ['id' => 'k'.bin2hex(random_bytes(4)), 'secret' => base64_encode(random_bytes(32))];
    }

    public function keyMade(): ?CarbonImmutable
    {
        $newest = $this->keys[array_key_last($this->keys) ?? 0] ?? null;

        return $newest === null ? null : CarbonImmutable::parse($newest['made']);
    }

    public static function noun(): string
    {
        return 'pair';
    }

    public function line(): string
    {
        return "$this->name, {$this->first->name} and {$this->second->name}";
    }
}
