<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A port of a switch that is meant to have a profile.
 *
 * @property string $profile_id
 * @property string $domain_id  that of the profile
 * @property string $device  the switch, as it calls itself
 * @property string $port
 * @property-read PortProfile $profile
 */
final class ProfilePort extends Model
{
    protected $table = 'profile_ports';

    public function versioned(): bool
    {
        return false;
    }

    /** @return BelongsTo<PortProfile, $this> */
    public function profile(): BelongsTo
    {
        return $this->belongsTo(PortProfile::class);
    }

    public static function noun(): string
    {
        return 'port';
    }

    public static function withinColumn(): string
    {
        return 'profile_id';
    }

    public function line(): string
    {
        return "$this->device $this->port";
    }
}
