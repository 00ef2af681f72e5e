<?php

declare(strict_types=1);

namespace App\View;

use Illuminate\Support\HtmlString;

/** Draws a lane of blocks, in percent across and px down. In PHP and not in a template, since hundreds of blocks stand on a page. */
final readonly class Strip
{
    /** Room for text on a strip as wide as the sheet at the reference width, in px for one percent. */
    private const ACROSS = 11.3;

    /**
     * @param  list<Block>  $blocks
     * @param  float  $across  px for one percent at the reference width, where the strip is narrower
     */
    public static function draw(array $blocks, int $y, int $height, float $across = self::ACROSS): HtmlString
    {
        $svg = "<svg class=\"lane\" y=\"$y\" height=\"$height\" width=\"100%\">";
        foreach ($blocks as $block) {
            $svg .= self::linked($block, self::block($block, $height, $block->width * $across));
        }

        return new HtmlString($svg.'</svg>');
    }

    private static function linked(Block $b, string $svg): string
    {
        return match (true) {
            $b->href !== null => '<a href="'.e($b->href).'">'.$svg.'</a>',
            $b->choose !== null => '<a href="?prefix='.urlencode($b->choose).'#carve" data-choose-prefix="'.e($b->choose).'">'.$svg.'</a>',
            default => $svg,
        };
    }

    private static function block(Block $b, int $height, float $room): string
    {
        $svg = '<svg class="'.e($b->look).'" x="'.$b->pct($b->x).'" width="'.$b->pct($b->width).'"><title>'.e($b->title).'</title>';
        if ($b->level !== null && $b->level > 0) {
            $top = $b->pct(100 - $b->level);
            $svg .= '<rect class="water" y="'
                .$top
                .'" width="100%" height="'
                .$b->pct($b->level)
                .'"/>'
                .($b->fill === null ? '<line class="level" x2="100%" y1="'.$top.'" y2="'.$top.'"/>' : '');
        }
        $svg .= $b->fill !== null
            ? '<rect class="'.$b->fill.'" width="100%" height="100%"/>'
            : ($b->kind === 'strata' ? '<rect class="layers" width="100%" height="100%"/>' : '');
        $svg .= $b->kind === 'open' ? '<rect class="outline" fill="none"/>' : '<rect class="outline"/>';

        return $svg.match ($b->kind) {
            'open' => self::openLabels($b, $height, $room),
            'strata' => self::strataLabels($b, $height, $room),
            default => self::labels($b, $height, $room),
        }.'</svg>';
    }

    private static function openLabels(Block $b, int $height, float $room): string
    {
        $middle = intdiv($height, 2);
        if ($room > 64) {
            return '<text class="it mid'.($room > 130 ? ' big' : '').'" x="50%" y="'.$middle.'">'.e($b->short).' open</text>'
                .($room > strlen($b->code) * 6.6 + 10 ? self::text('mono sub mid', '50%', $middle + 15, $b->code) : '');
        }

        return $room > 26
            ? self::text('it mid', '50%', $middle, $b->short).($room > 34 ? self::text('it mid', '50%', $middle + 14, 'open') : '')
            : '';
    }

    private static function strataLabels(Block $b, int $height, float $room): string
    {
        $middle = intdiv($height, 2);

        return $room > 74
            ? self::text('mid', '50%', $middle, $b->name).self::text('mono sub mid', '50%', $middle + 15, $b->code)
            : ($room > 20 ? self::text('mid', '50%', $middle + 4, $b->short) : '');
    }

    private static function labels(Block $b, int $height, float $room): string
    {
        if ($height < 40) {
            return $room > strlen($b->name) * 6.4 + 8 ? self::text('nm', '5', $height - 6, $b->name) : '';
        }
        if ($room <= 30) {
            return '';
        }
        [$name, $code, $figure] = self::slots($b, $height);
        $wide = $room > max(strlen($b->name), strlen($b->code)) * 6.6 + 16;
        if (! $wide && $room <= strlen($b->name) * 6.4 + 12) {
            return self::text('mono mid', '50%', $name, $b->short)
                .($room > strlen($b->figure) * 6.5 ? self::text('mid', '50%', $figure, $b->figure) : '');
        }
        $x = $wide ? 9 : 6;
        $warning = $b->high
            ? '<use class="warn" href="#m-warn" x="'.($x + 5 + strlen($b->figure) * 7).'" y="'.($figure - 10).'" width="12" height="12"/>'
            : '';

        return self::text('nm', (string) $x, $name, $b->name)
            .self::text('mono sub', (string) $x, $code, $wide ? $b->code : $b->short)
            .self::text('', (string) $x, $figure, $b->figure)
            .$warning;
    }

    /**
     * Labels step around the waterline: name, prefix, figure, top to bottom; the gap falls where the line is.
     *
     * @return array{int, int, int} baselines
     */
    private static function slots(Block $b, int $height): array
    {
        $line = $b->level === null ? null : (int) ($height * (1 - $b->level / 100));
        $foot = $height - 8;
        $slots = match (true) {
            $line === null || $line < 10 => [20, 35, $foot],
            $line < 24 => [$line + 15, $line + 29, $foot],
            $line < 42 => [19, $line + 14, $foot],
            default => [19, 34, $foot],
        };
        if ($line !== null && $line > $foot - 13 && $line < $foot + 4) {
            $slots[2] = $line - 6;
        }

        return $slots;
    }

    private static function text(string $class, string $x, int $y, string $text): string
    {
        return '<text'.($class === '' ? '' : " class=\"$class\"")." x=\"$x\" y=\"$y\">".e($text).'</text>';
    }
}
