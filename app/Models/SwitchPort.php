<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;

/**
 * How a port of a switch was set when it was read.
 *
 * @property string $domain_id
 * @property string $device
 * @property string $port
 * @property ?int $native
 * @property ?int $voice
 * @property bool $lldp
 * @property bool $poe
 * @property int $priority
 * @property CarbonImmutable $read_at
 */
final class SwitchPort extends Model
{
    protected $table = 'switch_ports';

    /** @var array<string, string> */
    protected $casts = ['lldp' => 'boolean', 'poe' => 'boolean', 'priority' => 'integer', 'read_at' => 'immutable_datetime'];

    public static function noun(): string
    {
        return 'port of a switch';
    }

    public function line(): string
    {
        return "$this->device $this->port";
    }

    /** @return array{native: ?int, voice: ?int, lldp: bool, poe: bool, priority: int} */
    public function form(): array
    {
        return [
            'native' => $this->native, 'voice' => $this->voice, 'lldp' => $this->lldp, 'poe' => $this->poe, 'priority' => $this->priority,
        ];
    }
}
