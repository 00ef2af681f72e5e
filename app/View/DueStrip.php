<?php

declare(strict_types=1);

namespace App\View;

use Carbon\CarbonImmutable;
use Illuminate\Support\HtmlString;

/** What is due, week by week: a column of marks for each week, so that one sees which are full. The list below says the same in words. */
final class DueStrip
{
    private const WEEKS = 17;

    private const HEIGHT = 74;

    private const MOST = 10;

    /** @param  list<array{at: CarbonImmutable, title: string}>  $events */
    public static function of(array $events): HtmlString
    {
        $start = CarbonImmutable::now()->utc()->startOfWeek();
        $weeks = array_fill(0, self::WEEKS, 0);
        foreach ($events as $event) {
            $week = (int) floor(max(0, $start->diffInDays($event['at']->utc())) / 7);
            $weeks[min(self::WEEKS - 1, $week)]++;
        }
        $columns = $words = '';
        foreach ($weeks as $i => $count) {
            $day = $start->addWeeks($i)->format('j M');
            $words .= "week of $day: $count; ";
            $high = min(self::MOST, $count) / self::MOST * (self::HEIGHT - 30);
            $columns .= sprintf(
                '<svg x="%.2f%%" width="%.2f%%" height="%d" overflow="visible"><line y1="%d" y2="%d" x2="96%%" class="tickline"/>'
                    .'<rect y="%.1f" width="70%%" height="%.1f" class="water"/><text x="2" y="%d" class="sub mono">%s</text>%s</svg>',
                $i * 100 / self::WEEKS,
                100 / self::WEEKS,
                self::HEIGHT,
                self::HEIGHT - 16,
                self::HEIGHT - 16,
                self::HEIGHT - 16 - $high,
                $high,
                self::HEIGHT - 3,
                $i % 2 === 0 ? $day : '',
                $count === 0 ? '' : '<text x="2" y="'.round(self::HEIGHT - 20 - $high).'" class="nm">'.$count.'</text>',
            );
        }

        return new HtmlString(
            '<svg class="strip due" width="100%" height="'.self::HEIGHT.'" role="img" aria-label="Due, week by week. '
                .''.e($words).'">'.$columns.'</svg>',
        );
    }
}
