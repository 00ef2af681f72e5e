<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;

/**
 * @property string $space_id
 * @property list<string> $prefixes
 * @property list<string> $left_out
 * @property RunState $state
 * @property int $total
 * @property int $done
 * @property int $answered
 * @property string $message
 * @property ?string $person_id
 * @property ?string $schedule_id
 * @property ?CarbonImmutable $started_at
 * @property ?CarbonImmutable $finished_at
 */
final class Scan extends Model
{
    protected $table = 'scans';

    protected $casts = [
        'state' => RunState::class, 'prefixes' => 'array', 'left_out' => 'array', 'started_at' => 'immutable_datetime',
        'finished_at' => 'immutable_datetime',
    ];

    public static function noun(): string
    {
        return 'scan';
    }

    public function line(): string
    {
        return 'scan of '.count($this->prefixes).' prefixes';
    }
}
