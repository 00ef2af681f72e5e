<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;

/**
 * One comparison of all names with all pointers.
 *
 * @property RunState $state
 * @property int $records  looked at so far
 * @property int $total
 * @property ?array<string, int> $counts  kind of finding → how many
 * @property string $message
 * @property ?string $person_id
 * @property CarbonImmutable $started_at
 * @property ?CarbonImmutable $finished_at
 */
final class Sweep extends Model
{
    protected $table = 'sweeps';

    protected $casts = [
        'state' => RunState::class, 'counts' => 'array', 'started_at' => 'immutable_datetime', 'finished_at' => 'immutable_datetime',
    ];

    public function isRunning(): bool
    {
        return $this->state->runs();
    }

    public static function noun(): string
    {
        return 'sweep';
    }

    public function line(): string
    {
        return "sweep of {$this->started_at->format('j M Y H:i')}";
    }
}
