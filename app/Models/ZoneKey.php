<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\KeyRole;
use HarborPost\Core\Dns\Dnssec\KeyTimes;
use HarborPost\Core\Dns\Dnssec\SigningKey;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Ds;
use HarborPost\Core\Dns\Rdata\Fields;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A key that signs a zone. Times are seconds since 1970 and mean that every server of the zone had it: null has not happened.
 *
 * @property string $zone_id
 * @property KeyRole $role
 * @property Algorithm $algorithm
 * @property int $tag
 * @property string $public  data of the DNSKEY
 * @property string $secret  encrypted; in no page, log, draft or export
 * @property KeyWish $wants  what the next shipment brings
 * @property bool $beside  signs, or is to sign, without standing among the keys: before and after a change of the algorithm
 * @property int $made
 * @property ?int $published
 * @property ?int $active
 * @property ?int $retired
 * @property ?int $ds_asked
 * @property ?int $ds_seen
 * @property ?int $withdrawn  out of the keys; its signatures stay until no cache has the keys with it
 * @property ?int $removed
 * @property-read Zone $zone
 */
final class ZoneKey extends Model
{
    protected $table = 'zone_keys';

    protected $casts = [
        'role' => KeyRole::class, 'algorithm' => Algorithm::class, 'wants' => KeyWish::class, 'beside' => 'boolean',
        'secret' => 'encrypted',
    ];

    protected $hidden = ['secret'];

    public static function secret(): array
    {
        return ['secret'];
    }

    public static function draw(Zone $zone, KeyRole $role, Algorithm $algorithm, int $at): self
    {
        $key = SigningKey::make($algorithm, $role->isEntry(), random_bytes(32));

        return new self([
            'zone_id' => $zone->id, 'role' => $role, 'algorithm' => $algorithm, 'tag' => $key->tag(), 'public' => $key->public->text(),
            'secret' => $key->secret(), 'wants' => KeyWish::Nothing, 'beside' => false, 'made' => $at,
        ]);
    }

    public function dnskey(): Dnskey
    {
        return Dnskey::fromText(Fields::ofLine($this->public));
    }

    public function signing(): SigningKey
    {
        return SigningKey::ofSecret($this->algorithm, $this->role->isEntry(), $this->secret);
    }

    public function ds(): Ds
    {
        return SigningKey::dsOf(Name::parse($this->zone->name), $this->dnskey());
    }

    /** As the schedule reads it; a key that is not on every server yet counts as published at $now at the earliest. */
    public function times(int $now): KeyTimes
    {
        return new KeyTimes(
            $this->id, $this->role, $this->published ?? $now, $this->active, $this->retired, $this->ds_asked, $this->ds_seen,
            removed: $this->removed, algorithm: $this->algorithm->value, hidden: $this->beside, withdrawn: $this->withdrawn,
        );
    }

    /** Stands or signs in the zone with the next shipment? */
    public function isIn(): bool
    {
        return $this->removed === null && $this->wants !== KeyWish::Removed;
    }

    /** Stands among the keys with the next shipment? */
    public function isShown(): bool
    {
        return $this->isIn() && $this->wants !== KeyWish::Withdrawn && (! $this->beside || $this->wants === KeyWish::Shown);
    }

    /** Vouches for the other keys of the zone with the next shipment, so that the parent may name it? */
    public function isEntry(): bool
    {
        return $this->isShown() && $this->role->isEntry();
    }

    /** @return BelongsTo<Zone, $this> */
    public function zone(): BelongsTo
    {
        return $this->belongsTo(Zone::class);
    }

    public static function noun(): string
    {
        return 'signing key';
    }

    public static function withinColumn(): string
    {
        return 'zone_id';
    }

    public function line(): string
    {
        return "{$this->role->words()} of {$this->zone->title()}";
    }

    /**
     * Which key it will be is drawn when it is made: a preview cannot know it.
     *
     * @return list<string>
     */
    public static function quiet(): array
    {
        return [...array_values(parent::quiet()), 'public', 'tag'];
    }
}
