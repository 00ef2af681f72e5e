<?php

declare(strict_types=1);

namespace App\View;

use Illuminate\Support\HtmlString;

/** A row of figures as a line, from zero up; the figures themselves are its label. */
final class Sparkline
{
    /** @param  array<int|float|string>  $values  oldest first */
    public static function of(array $values, int $width = 120, int $height = 20): HtmlString
    {
        $values = array_values(array_map(floatval(...), $values));
        if (count($values) < 2) {
            return new HtmlString($values === [] ? '' : '<span class="hint">from today on</span>');
        }
        $most = max($values) > 0 ? max($values) : 1.0;
        $path = '';
        foreach ($values as $i => $value) {
            $x = $i / (count($values) - 1) * ($width - 4) + 2;
            $path .= sprintf('%s%.1f %.1f', $i === 0 ? 'M' : ' L', $x, $height - 2 - $value / $most * ($height - 4));
        }

        return new HtmlString(
            '<svg class="spark" width="'.$width.'" height="'.$height.'" role="img" aria-label="'.e(implode(', ', $values)).'">'
                .'<path class="level" fill="none" d="'.$path.'"/></svg>',
        );
    }
}
