<?php

declare(strict_types=1);

namespace App\Models;

/**
 * From where on a figure of any server is told as a notice.
 *
 * @property string $family
 * @property string $labels  blank: whatever they are
 * @property bool $above  or below
 * @property float $value
 * @property int $minutes  that it has to hold
 */
final class Threshold extends Model
{
    protected $table = 'thresholds';

    /** @var array<string, string> */
    protected $casts = ['above' => 'boolean', 'value' => 'float', 'minutes' => 'integer'];

    public static function noun(): string
    {
        return 'threshold';
    }

    public function line(): string
    {
        return trim("$this->family $this->labels").' '.($this->above ? 'above' : 'below').' '
            .rtrim(rtrim(sprintf('%.6f', $this->value), '0'), '.')
            ." for $this->minutes min";
    }
}
