<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use Carbon\CarbonImmutable;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;

/**
 * @property string $prefix_id
 * @property Address $first
 * @property Address $last
 * @property string $reason
 * @property ?CarbonImmutable $until
 */
final class HeldRun extends Model
{
    protected $table = 'held_runs';

    protected $casts = ['first' => AddressBytes::class, 'last' => AddressBytes::class, 'until' => 'immutable_date'];

    public function range(): AddressRange
    {
        return AddressRange::of($this->first, $this->last);
    }

    /** Is it still held on that day? The last day counts. */
    public function holds(\DateTimeInterface $day): bool
    {
        return $this->until === null || $this->until->endOfDay() >= $day;
    }

    public static function noun(): string
    {
        return 'held run';
    }

    public static function withinColumn(): string
    {
        return 'prefix_id';
    }

    public function line(): string
    {
        return "{$this->range()}, $this->reason";
    }
}
