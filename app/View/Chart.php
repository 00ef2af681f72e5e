<?php

declare(strict_types=1);

namespace App\View;

use Illuminate\Support\HtmlString;

/**
 * Figures over time as lines, from zero up, with their scale, thresholds, what happened meanwhile, and the same a week before. A gap in the
 * figures is a gap in the line. The same stands in a table beside it.
 *
 * @phpstan-import-type Line from \App\Queries\Figures
 */
final class Chart
{
    private const WIDTH = 720;

    private const HEIGHT = 150;

    private const LEFT = 52;

    private const FOOT = 18;

    /**
     * @param  array{lines: list<Line>, left: int, from: int, to: int, step: int}  $course
     * @param  list<float>  $thresholds
     * @param  list<array{at: int, words: string}>  $events
     */
    public static function of(array $course, string $label, array $thresholds = [], array $events = []): HtmlString
    {
        $most = self::most($course, $thresholds);
        $x = static fn (int $at): float => self::LEFT
            + ($at - $course['from']) / max(1, $course['to'] - $course['from']) * (self::WIDTH - self::LEFT - 4);
        $y = static fn (float $v): float => 6 + (1 - $v / $most) * (self::HEIGHT - self::FOOT - 6);
        $svg = self::scale($most, $y).self::times($course['from'], $course['to'], $x);
        foreach ($events as $event) {
            $svg .= sprintf(
                '<path class="event" d="M%.1f 6 V%d"><title>%s</title></path>',
                $x($event['at']),
                self::HEIGHT - self::FOOT,
                e(gmdate('H:i', $event['at'])." UTC: $event[words]"),
            );
        }
        foreach ($thresholds as $threshold) {
            $svg .= sprintf('<path class="limit" d="M%d %.1f H%d"/>', self::LEFT, $y($threshold), self::WIDTH - 4);
        }
        foreach ($course['lines'] as $i => $line) {
            $before = self::path($line['before'], $x, $y, 60 * max(5, $course['step']));
            $svg .= $before === '' ? '' : '<path class="weekago" d="'.$before.'"/>';
            $svg .= '<path class="course c'.$i.'" d="'.self::path($line['points'], $x, $y, 60 * $course['step']).'"/>';
        }

        return new HtmlString(
            '<svg class="chart" viewBox="0 0 '.self::WIDTH.' '.self::HEIGHT.'" role="img" aria-label="'.e($label).'">'.$svg.'</svg>',
        );
    }

    public static function figure(float $value, string $unit = ''): string
    {
        $size = abs($value);

        return match (true) {
            $unit === 'seconds' => $size < 1 ? round($value * 1000, $size < 0.01 ? 2 : 1).' ms' : round($value, 2).' s',
            $size >= 1e6 => round($value / 1e6, 1).' M',
            $size >= 1e4 => round($value / 1e3, 1).' k',
            $size >= 100 => number_format($value),
            $size >= 1 => rtrim(rtrim(number_format($value, 2), '0'), '.'),
            $size === 0.0 => '0',
            default => rtrim(rtrim(sprintf('%.4f', $value), '0'), '.'),
        };
    }

    /**
     * @param  array{lines: list<Line>, left: int, from: int, to: int, step: int}  $course
     * @param  list<float>  $thresholds
     */
    private static function most(array $course, array $thresholds): float
    {
        $most = $thresholds === [] ? 0.0 : max($thresholds);
        foreach ($course['lines'] as $line) {
            foreach ([...$line['points'], ...$line['before']] as $point) {
                $most = max($most, $point['mean']);
            }
        }
        if ($most <= 0) {
            return 1.0;
        }
        $power = 10 ** floor(log10($most));
        foreach ([1, 2, 5, 10] as $round) {
            if ($most <= $round * $power) {
                return (float) ($round * $power);
            }
        }

        return $most;
    }

    /** @param  \Closure(float): float  $y */
    private static function scale(float $most, \Closure $y): string
    {
        $svg = '';
        foreach ([0.0, $most / 2, $most] as $value) {
            $svg .= sprintf('<path class="tickline" d="M%d %.1f H%d"/>', self::LEFT, $y($value), self::WIDTH - 4)
                .sprintf('<text x="%d" y="%.1f" text-anchor="end">%s</text>', self::LEFT - 6, $y($value) + 3.5, e(self::figure($value)));
        }

        return $svg;
    }

    /** @param  \Closure(int): float  $x */
    private static function times(int $from, int $to, \Closure $x): string
    {
        $every = 86400 * 61;
        foreach ([3600, 4 * 3600, 86400, 5 * 86400, 30 * 86400] as $step) {
            if (($to - $from) / $step <= 8) {
                $every = $step;
                break;
            }
        }
        $svg = '';
        for ($at = intdiv($from, $every) * $every + $every; $at < $to; $at += $every) {
            $svg .= sprintf(
                '<text x="%.1f" y="%d" text-anchor="middle">%s</text>',
                min($x($at), self::WIDTH - 16),
                self::HEIGHT - 4,
                gmdate($every < 86400 ? 'H:i' : 'j M', $at),
            );
        }

        return $svg;
    }

    /**
     * @param  list<array{at: int, mean: float}>  $points
     * @param  \Closure(int): float  $x
     * @param  \Closure(float): float  $y
     */
    private static function path(array $points, \Closure $x, \Closure $y, int $step): string
    {
        $path = '';
        $last = null;
        foreach ($points as $point) {
            // What is further apart than two and a half steps has a gap between.
            $begins = $last === null || 2.5 * $step < $point['at'] - $last;
            $path .= sprintf('%s%.1f %.1f', $begins ? 'M' : 'L', $x($point['at']), $y($point['mean'])).($begins ? ' h0.8' : '');
            $last = $point['at'];
        }

        return $path;
    }
}
