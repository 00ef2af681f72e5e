<?php

declare(strict_types=1);

namespace App\View\Joined;

use Illuminate\Support\HtmlString;

/**
 * Boxes joined by lines, what hangs on a box to the right of it. Each box says all it has in words and may lead somewhere, so the drawing
 * is read and walked as a list; a line to what is wrong is cut.
 */
final class Drawing
{
    private const LINE = 15;

    /** Width of a letter of a name, and of the lines below it. */
    private const NAME = 7.3;

    private const TEXT = 5.6;

    private const CLOCK = 11;

    private string $boxes = '';

    private string $joints = '';

    private float $y = 2;

    private int $depth = 0;

    private function __construct(private readonly int $width, private readonly int $gap)
    {
    }

    /**
     * @param  list<Box>  $roots
     * @param  int  $width  of a box; what is longer takes a second line
     */
    public static function of(array $roots, string $says, int $width = 236, int $gap = 38): HtmlString
    {
        $own = new self($width, $gap);
        foreach ($roots as $root) {
            $own->draw($root, 0);
        }
        $width = ($own->depth + 1) * ($width + $gap) - $gap + 4;

        return new HtmlString(
            sprintf('<div class="scroll-x" tabindex="0" role="region" aria-label="%s">', e($says))
                .sprintf('<svg class="strip joined" width="%d" height="%d" role="group" aria-label="%s">', $width, (int) $own->y, e($says))
                .$own->joints.$own->boxes.'</svg></div>',
        );
    }

    /** @return float where its line begins and ends */
    private function draw(Box $box, int $depth): float
    {
        $this->depth = max($this->depth, $depth);
        $height = 24 + self::LINE * count($this->lines($box));
        $top = $this->y;
        $joints = [];
        // It is walked from left to right: a box before what hangs on it.
        $before = $this->boxes;
        $this->boxes = '';
        foreach ($box->next as $next) {
            $joints[] = [$this->draw($next, $depth + 1), $next->sign];
        }
        // A box stands beside the first that hangs on it: a long list is read from its head.
        $middle = max($joints[0][0] ?? 0, $top + $height / 2);
        $this->y = max($this->y, $middle + $height / 2 + 10);
        $x = 2 + $depth * ($this->width + $this->gap);
        foreach ($joints as [$y, $sign]) {
            $this->joints .= $this->line($x + $this->width, $middle, $y, $sign);
        }
        $this->boxes = $before.$this->box($box, $x, $middle - $height / 2, $height).$this->boxes;

        return $middle;
    }

    private function line(float $x, float $from, float $to, Sign $sign): string
    {
        $turn = $x + $this->gap / 2;
        $line = sprintf('<path class="joint %s" d="M%.1f %.1f H%.1f V%.1f H%.1f"/>', $sign->value, $x, $from, $turn, $to, $x + $this->gap);
        if ($sign !== Sign::Wrong) {
            return $line;
        }
        $at = $turn + $this->gap / 4;

        return $line.sprintf('<path class="joint cutmark" d="M%1$.1f %3$.1f L%2$.1f %4$.1f M%2$.1f %3$.1f L%1$.1f %4$.1f"/>',
            $at - 4, $at + 4, $to - 4, $to + 4);
    }

    private function box(Box $box, float $x, float $y, float $height): string
    {
        $name = self::short($box->name, (int) (($this->width - 16) / self::NAME) - ($box->left === null ? 0 : 4));
        $text = sprintf('<rect class="boxed %s" x="%.1f" y="%.1f" ', $box->sign->value, $x, $y)
            .sprintf('width="%d" height="%.1f"/>', $this->width, $height)
            .sprintf('<text class="nm mono" x="%.1f" y="%.1f">%s</text>', $x + 8, $y + 16, e($name));
        foreach ($this->lines($box) as $i => $line) {
            $down = $y + 32 + self::LINE * $i;
            $text .= sprintf('<text class="sub" x="%.1f" y="%.1f">%s</text>', $x + 8, $down, e($line));
        }
        $text .= self::clock($box->left, $x + $this->width - self::CLOCK - 6, $y + self::CLOCK + 5);
        $says = implode('; ', [$box->name, ...$box->lines]);

        return $box->link === null
            ? '<g role="img" aria-label="'.e($says).'"><title>'.e($says)."</title>$text</g>"
            : '<a href="'.e($box->link).'" aria-label="'.e($says).'"><title>'.e($says)."</title>$text</a>";
    }

    /** What is left of a time, as the part of a face that is still filled. */
    public static function clock(?float $left, float $x, float $y): string
    {
        if ($left === null) {
            return '';
        }
        $left = max(0.0, min(1.0, $left));
        $r = self::CLOCK - 2;
        $face = sprintf('<circle class="face" cx="%.1f" cy="%.1f" r="%d"/>', $x, $y, $r);
        if ($left >= 0.999) {
            return $face.sprintf('<circle class="leftover" cx="%.1f" cy="%.1f" r="%d"/>', $x, $y, $r);
        }
        $angle = 2 * M_PI * (1 - $left);

        return $face.($left <= 0.001 ? '' : sprintf(
            '<path class="leftover" d="M%1$.1f %2$.1f L%3$.2f %4$.2f A%5$d %5$d 0 %6$d 1 %1$.1f %7$.1f Z"/>',
            $x, $y, $x + $r * sin($angle), $y - $r * cos($angle), $r, $left > 0.5 ? 1 : 0, $y - $r,
        ));
    }

    /** @return list<string> what is said of a box, as long lines are broken: each into two at most */
    private function lines(Box $box): array
    {
        $most = (int) (($this->width - 16) / self::TEXT);
        $broken = [];
        foreach ($box->lines as $line) {
            [$first, $rest] = explode("\n", wordwrap($line, $most, "\n"), 2) + ['', ''];
            array_push($broken, self::short($first, $most), ...$rest === '' ? [] : [self::short(strtr($rest, "\n", ' '), $most)]);
        }

        return $broken;
    }

    private static function short(string $text, int $most): string
    {
        return mb_strlen($text) <= $most ? $text : mb_substr($text, 0, $most - 1).'…';
    }
}
