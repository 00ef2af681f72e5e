<?php

declare(strict_types=1);

namespace App\View;

use Carbon\CarbonImmutable;
use HarborPost\Core\Planning\Trend;
use Illuminate\Support\HtmlString;

/** A trend in words, as people speak of it: "80 % in March (Feb to May)". */
final class ForecastWords
{
    public const LEVELS = [80, 90, 100];

    public static function level(?Trend $trend, float $percent, int $level, int $today): string
    {
        if ($percent >= $level) {
            return "$level % reached";
        }
        if ($trend === null || $trend->kind === 'few') {
            return 'too few samples'.($trend === null ? '' : " ($trend->samples)");
        }
        $reach = $trend->reaches($level);
        if ($reach === null) {
            return $trend->kind === 'falling' ? 'falling' : 'no trend';
        }
        if ($reach['day'] > $today + 3650) {
            return "$level % not within ten years";
        }
        $spread = self::month($reach['earliest'], $today)
            .' to '
            .($reach['latest'] === null || $reach['latest'] > $today + 3650 ? 'open' : self::month($reach['latest'], $today));
        $alone = $reach['latest'] !== null && self::month($reach['earliest'], $today) === self::month($reach['latest'], $today);

        return "$level % in ".self::month($reach['day'], $today, true).($alone ? '' : " ($spread)");
    }

    /** The first level that is not reached yet. */
    public static function next(?Trend $trend, float $percent, int $today): string
    {
        foreach (self::LEVELS as $level) {
            if ($percent < $level) {
                return self::level($trend, $percent, $level, $today);
            }
        }

        return 'full';
    }

    /**
     * Samples as a line, the trend through them, and the levels.
     *
     * @param  array<int, float>  $samples
     */
    public static function chart(array $samples, ?Trend $trend, int $today): HtmlString
    {
        if ($samples === []) {
            return new HtmlString('');
        }
        $first = array_key_first($samples);
        $last = $today + 120;
        $x = fn (float $day): string => number_format(1000 * ($day - $first) / max(1, $last - $first), 1, '.', '');
        $y = fn (float $value): string => number_format(100 - max(0, min(100, $value)), 2, '.', '');
        $points = implode(' ', array_map(fn (int $d, float $v): string => $x($d).','.$y($v), array_keys($samples), $samples));
        $svg = '<svg class="fall" viewBox="0 0 1000 100" preserveAspectRatio="none" aria-hidden="true">';
        foreach ([80, 100] as $level) {
            $svg .= '<line class="mark" x1="0" x2="1000" y1="'.$y($level).'" y2="'.$y($level).'"/>';
        }
        if ($trend !== null && in_array($trend->kind, ['rising', 'falling'], true)) {
            $from = $trend->on($today);
            $low = $from + $trend->slopeLow * ($last - $today);
            $high = $from + $trend->slopeHigh * ($last - $today);
            $svg .= '<path class="spread" d="M'
                .$x($today)
                .' '
                .$y($from)
                .'L1000 '
                .$y($high)
                .'L1000 '
                .$y($low)
                .'z"/><line class="trend" x1="'
                .$x($first)
                .'" y1="'
                .$y($trend->on($first))
                .'" x2="1000" y2="'
                .$y($trend->on($last))
                .'"/>';
        }

        return new HtmlString(
            $svg
                .'<polyline class="level" points="'
                .$points
                .'"/><line class="today" x1="'
                .$x($today)
                .'" x2="'
                .$x($today)
                .'" y1="0" y2="100"/></svg>',
        );
    }

    private static function month(int $day, int $today, bool $long = false): string
    {
        $date = CarbonImmutable::createFromTimestampUTC($day * 86400);
        $sameYear = abs($day - $today) < 330;

        return $date->format(($long ? 'F' : 'M').($sameYear ? '' : ' Y'));
    }
}
