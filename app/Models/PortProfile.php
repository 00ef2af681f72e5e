<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * How ports of switches in one layer-2 domain are meant to be set.
 *
 * @property string $domain_id
 * @property string $name
 * @property string $native_vlan_id  untagged
 * @property ?string $voice_vlan_id
 * @property bool $lldp  phones are told the voice VLAN by LLDP-MED
 * @property bool $poe
 * @property int $priority  IEEE 802.1p, of the voice VLAN
 * @property string $description
 * @property-read Layer2Domain $domain
 * @property-read Vlan $native
 * @property-read ?Vlan $voice
 * @property-read Collection<int, ProfilePort> $ports
 */
final class PortProfile extends Model
{
    protected $table = 'port_profiles';

    /** @var array<string, mixed> */
    protected $attributes = ['description' => '', 'lldp' => false, 'poe' => false, 'priority' => 0];

    /** @var array<string, string> */
    protected $casts = ['lldp' => 'boolean', 'poe' => 'boolean', 'priority' => 'integer'];

    /** @return BelongsTo<Layer2Domain, $this> */
    public function domain(): BelongsTo
    {
        return $this->belongsTo(Layer2Domain::class, 'domain_id');
    }

    /** @return BelongsTo<Vlan, $this> */
    public function native(): BelongsTo
    {
        return $this->belongsTo(Vlan::class, 'native_vlan_id');
    }

    /** @return BelongsTo<Vlan, $this> */
    public function voice(): BelongsTo
    {
        return $this->belongsTo(Vlan::class, 'voice_vlan_id');
    }

    /** @return HasMany<ProfilePort, $this> */
    public function ports(): HasMany
    {
        return $this->hasMany(ProfilePort::class, 'profile_id')->orderBy('device')->orderBy('port');
    }

    public static function noun(): string
    {
        return 'port profile';
    }

    public function line(): string
    {
        return $this->name;
    }

    /** @return array{native: int, voice: ?int, lldp: bool, poe: bool, priority: int} as a switch is told */
    public function form(): array
    {
        return [
            'native' => $this->native->number, 'voice' => $this->voice?->number, 'lldp' => $this->lldp, 'poe' => $this->poe,
            'priority' => $this->priority,
        ];
    }

    /** @param  array{native: ?int, voice: ?int, lldp: bool, poe: bool, priority: int}  $form */
    public static function words(array $form): string
    {
        return implode(', ', array_filter([
            $form['native'] === null ? 'no native VLAN' : "native $form[native]",
            $form['voice'] === null ? '' : "voice $form[voice]".($form['lldp'] ? ' by LLDP-MED' : ''),
            $form['voice'] === null && $form['lldp'] ? 'LLDP-MED' : '',
            $form['poe'] ? 'power' : '',
            $form['priority'] === 0 ? '' : "priority $form[priority]",
        ]));
    }
}
