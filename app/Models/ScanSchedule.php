<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;

/**
 * @property string $space_id
 * @property list<string> $prefixes
 * @property list<string> $left_out
 * @property string $every
 * @property int $hour
 * @property bool $active
 * @property ?CarbonImmutable $last_run_at
 */
final class ScanSchedule extends Model
{
    protected $table = 'scan_schedules';

    protected $casts = ['prefixes' => 'array', 'left_out' => 'array', 'active' => 'boolean', 'last_run_at' => 'immutable_datetime'];

    public static function noun(): string
    {
        return 'scan schedule';
    }

    public function line(): string
    {
        return "every $this->every at $this->hour:00";
    }
}
