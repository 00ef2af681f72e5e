<?php

declare(strict_types=1);

namespace App\View;

use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Exchange\Renewals;
use Illuminate\Support\HtmlString;

/** The share of clients that have a change, over the time in which they ask again. The same stands in words beside it. */
final class ReachCurve
{
    private const WIDTH = 600;

    private const HEIGHT = 90;

    public static function of(Renewals $renewals): HtmlString
    {
        $last = (int) $renewals->until(1.0);
        $path = 'M0 '.self::HEIGHT;
        foreach ($renewals->curve() as [$time, $share]) {
            $path .= sprintf(' H%.1f V%.1f', $time * self::WIDTH, self::HEIGHT * (1 - $share));
        }
        $marks = '';
        foreach ([0.5, 0.95] as $share) {
            $x = $last === 0 ? 0 : (int) $renewals->until($share) / $last * self::WIDTH;
            $y = self::HEIGHT * (1 - $share);
            $marks .= sprintf('<path class="tickline" d="M0 %.1f H%.1f V%d"/>', $y, $x, self::HEIGHT);
        }

        return new HtmlString(
            '<svg class="reach" viewBox="0 0 '.self::WIDTH.' '.self::HEIGHT.'" preserveAspectRatio="none" role="img" aria-label="'
                .e(implode('; ', self::words($renewals))).'"><path class="water" d="'.$path.' V'.self::HEIGHT.' Z"/>'.$marks
                .'<path class="level" d="'.$path.'"/></svg>',
        );
    }

    /** @return list<string> "half of the clients within 2 h" */
    public static function words(Renewals $renewals): array
    {
        $words = [];
        foreach (['half of the clients' => 0.5, '95 %' => 0.95, 'all' => 1.0] as $who => $share) {
            $at = (int) $renewals->until($share);
            $words[] = $who.' '.($at === 0 ? 'at once' : 'within '.Ttl::of($at)->spoken());
        }

        return $words;
    }
}
