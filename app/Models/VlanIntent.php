<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Exchange\Intent\Rule;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Shipping\Window;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * That clients of a VLAN may, or may not, reach another VLAN or a prefix: always, or in a time of the week.
 *
 * @property string $vlan_id
 * @property ?string $to_vlan_id  one of the two
 * @property ?string $to_prefix
 * @property string $to_key  whichever of the two it is
 * @property bool $allows
 * @property ?string $days  apart by blanks, 1 for Monday; null: always
 * @property ?string $starts  07:00
 * @property ?int $minutes
 * @property ?string $zone
 * @property string $why
 * @property-read Vlan $vlan
 * @property-read ?Vlan $toVlan
 */
final class VlanIntent extends Model
{
    protected $table = 'vlan_intents';

    /** @var array<string, string> */
    protected $attributes = ['why' => ''];

    /** @var array<string, string> */
    protected $casts = ['allows' => 'boolean'];

    /** @return BelongsTo<Vlan, $this> */
    public function vlan(): BelongsTo
    {
        return $this->belongsTo(Vlan::class);
    }

    /** @return BelongsTo<Vlan, $this> */
    public function toVlan(): BelongsTo
    {
        return $this->belongsTo(Vlan::class, 'to_vlan_id');
    }

    public static function noun(): string
    {
        return 'intent';
    }

    public static function withinColumn(): string
    {
        return 'vlan_id';
    }

    public function toward(?string $vlan, ?string $prefix): self
    {
        return $this->fill(['to_vlan_id' => $vlan, 'to_prefix' => $prefix, 'to_key' => $vlan ?? $prefix]);
    }

    public function window(): ?Window
    {
        if ($this->days === null) {
            return null;
        }
        $days = array_map(intval(...), explode(' ', $this->days));

        return Window::of($days, (string) $this->starts, (int) $this->minutes, (string) $this->zone);
    }

    public function to(): string
    {
        return $this->toVlan?->line() ?? (string) $this->to_prefix;
    }

    /** @param  list<Net>  $subnets  of the VLAN it names */
    public function rule(array $subnets): Rule
    {
        return new Rule($this->id, $this->to_prefix === null ? $subnets : [Net::parse($this->to_prefix)], $this->allows, $this->window());
    }

    public function line(): string
    {
        return "{$this->vlan->line()} ".($this->allows ? 'may' : 'may not')." reach {$this->to()}"
            .($this->days === null ? '' : ", {$this->window()?->words()}");
    }
}
