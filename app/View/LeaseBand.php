<?php

declare(strict_types=1);

namespace App\View;

use Illuminate\Support\HtmlString;

/** The time of a lease to scale: what has run, T1 and T2, and now. The same stands in words below it. */
final class LeaseBand
{
    /**
     * @param  float  $share  how far the time has run, from 0 to 1
     * @param  float  $t1  when the client asks its server again, likewise
     * @param  float  $t2  when it asks any server
     */
    public static function of(float $share, float $t1, float $t2, bool $active): HtmlString
    {
        [$at, $first, $second] = [round(100 * $share, 2), round(100 * $t1, 2), round(100 * $t2, 2)];
        $water = $active ? 'water' : 'diag';
        $mark = static fn (float $x, string $name): string => '<line class="tickline" x1="'.$x.'%" x2="'.$x.'%" y1="4" y2="30"/>'
            .'<text class="sub mid" x="'.$x.'%" y="42">'.$name.'</text>';

        return new HtmlString(
            '<svg class="strip lease-band" height="46" role="img" aria-label="'.round($at).' of 100 parts of the lease time have run">'
                .'<rect class="'.$water.'" x="0" y="10" width="'.$at.'%" height="16"/>'
                .'<rect class="box" x="0" y="10" width="100%" height="16"/>'
                .$mark($first, 'T1').$mark($second, 'T2')
                .'<line class="now" x1="'.$at.'%" x2="'.$at.'%" y1="2" y2="30"/>'
                .'<text class="sub" x="'.min(96, $at).'%" dx="4" y="8">now</text>'
                .'</svg>',
        );
    }
}
