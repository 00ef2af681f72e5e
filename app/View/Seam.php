<?php

declare(strict_types=1);

namespace App\View;

use App\Models\Scope;
use HarborPost\Core\Exchange\Shares;
use Illuminate\Support\HtmlString;

/** The shares of a scope's servers to scale: contiguous parts with the seam between them. */
final class Seam
{
    /** @param  array<string, string>  $servers  id → name */
    public static function of(Scope $scope, array $servers): HtmlString
    {
        $all = max(1, $scope->size());
        $at = 0.0;
        $parts = $words = [];
        $order = [];
        foreach ($scope->ranges as $range) {
            $share = 100 * Shares::size([$range->range()], []) / $all;
            $name = $range->server_id === null ? 'every server' : ($servers[$range->server_id] ?? '?');
            $order[$name] ??= count($order) % 2 === 0 ? 'share-a' : 'share-b';
            $parts[] = self::part($at, $share, $order[$name], $name, (string) $range->range());
            $words[] = "$name leases {$range->range()}, ".round($share).' %';
            $at += $share;
        }

        return new HtmlString(
            '<svg class="strip seam" height="40" role="img" aria-label="'.e(implode('; ', $words)).'">'.implode('', $parts).'</svg>',
        );
    }

    private static function part(float $at, float $share, string $class, string $name, string $range): string
    {
        $x = round($at, 2);
        $text = $share < 12 ? '' : '<text x="'.$x.'%" dx="8" y="17"><tspan class="nm">'.e($name).'</tspan> '.round($share).' %</text>'
            .'<text class="sub mono" x="'.$x.'%" dx="8" y="32">'.($share < 30 ? '' : e($range)).'</text>';

        return '<rect class="'.$class.'" x="'.$x.'%" y="0" width="'.round($share, 2).'%" height="40"><title>'.e("$name, $range")
            .'</title></rect>'
            .'<rect class="outline" x="'.$x.'%" y="0" width="'.round($share, 2).'%" height="40"/>'.$text;
    }
}
