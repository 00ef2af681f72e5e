<?php

declare(strict_types=1);

namespace App\View;

use App\Models\Pair;
use HarborPost\Core\Exchange\Pair\LoadBalance;
use Illuminate\Support\HtmlString;

/** What of the clients, and of the addresses, is whose in a pair: to scale. */
final class PairStrip
{
    public static function of(Pair $pair): HtmlString
    {
        $terms = $pair->terms();
        $rows = ['clients' => $terms->clients, 'addresses' => $terms->addresses];
        $words = $parts = [];
        $y = 0;
        foreach ($rows as $what => $buckets) {
            $share = 100 * $buckets / LoadBalance::BUCKETS;
            $words[] = "{$pair->first->name} has ".round($share)." % of the $what, {$pair->second->name} ".round(100 - $share).' %';
            $parts[] = self::part($y, 0, $share, 'share-a', $pair->first->name, $what);
            $parts[] = self::part($y, $share, 100 - $share, 'share-b', $pair->second->name, $what);
            $y += 34;
        }

        return new HtmlString(
            '<svg class="strip seam" height="'.($y - 4).'" role="img" aria-label="'.e(implode('; ', $words)).'">'
                .implode('', $parts).'</svg>',
        );
    }

    private static function part(int $y, float $at, float $share, string $class, string $name, string $what): string
    {
        if ($share <= 0) {
            return '';
        }
        $x = round($at, 2);
        $width = round($share, 2);
        $text = $share < 14 ? '' : '<text x="'.$x.'%" y="'.($y + 20).'" dx="8"><tspan class="nm">'.e($name).'</tspan> '
            .round($share).' %'.($share < 40 ? '' : ' of the '.$what).'</text>';

        return '<rect class="'.$class.'" x="'.$x.'%" y="'.$y.'" width="'.$width.'%" height="30"><title>'
            .e("$name, ".round($share)." % of the $what").'</title></rect>'
            .'<rect class="outline" x="'.$x.'%" y="'.$y.'" width="'.$width.'%" height="30"/>'.$text;
    }
}
