<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;

/**
 * What was brought to a system outside, line by line.
 *
 * @property string $outside_id
 * @property ?string $person_id
 * @property RunState $state
 * @property CarbonImmutable $started_at
 * @property ?CarbonImmutable $ended_at
 * @property list<string> $chosen
 * @property list<array{prefix: string, what: string, state: string, message: string}> $steps
 */
final class OutsideRun extends Model
{
    protected $table = 'outside_runs';

    /** @var array<string, string> */
    protected $casts = [
        'state' => RunState::class, 'started_at' => 'immutable_datetime', 'ended_at' => 'immutable_datetime', 'chosen' => 'array',
        'steps' => 'array',
    ];

    public function versioned(): bool
    {
        return false;
    }

    public static function noun(): string
    {
        return 'run outside';
    }

    public function line(): string
    {
        return "a run, {$this->state->value}";
    }
}
