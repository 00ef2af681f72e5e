<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A system outside that holds pools and parts of pools, and which of ours it is compared with.
 *
 * @property string $name
 * @property string $address  https://host:port
 * @property ?string $token
 * @property string $space_id
 * @property ?string $under_id  what lies in this prefix; null: the whole space
 * @property Leads $leads
 * @property bool $keeps  kept in step by itself
 * @property-read Space $space
 * @property-read ?Prefix $under
 */
final class Outside extends Model
{
    protected $table = 'outsides';

    /** @var array<string, string|bool> */
    protected $attributes = ['leads' => 'nobody', 'keeps' => false];

    /** @var array<string, string> */
    protected $casts = ['token' => 'encrypted', 'leads' => Leads::class, 'keeps' => 'boolean'];

    protected $hidden = ['token'];

    public static function secret(): array
    {
        return ['token'];
    }

    /** @return BelongsTo<Space, $this> */
    public function space(): BelongsTo
    {
        return $this->belongsTo(Space::class);
    }

    /** @return BelongsTo<Prefix, $this> */
    public function under(): BelongsTo
    {
        return $this->belongsTo(Prefix::class, 'under_id');
    }

    public static function noun(): string
    {
        return 'outside system';
    }

    public function line(): string
    {
        return $this->name;
    }
}
