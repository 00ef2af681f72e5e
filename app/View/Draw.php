<?php

declare(strict_types=1);

namespace App\View;

use App\Models\Stage;
use App\Shipping\Chain;
use App\View\Joined\Drawing;
use Brick\Math\BigInteger;
use Illuminate\Support\HtmlString;

/** The marks of long lists, drawn without a component each: hundreds stand on a page. */
final class Draw
{
    public static function mark(string $name, ?string $say = null): string
    {
        return '<svg class="m '
            .$name
            .'" '
            .($say === null ? 'aria-hidden="true"' : 'role="img" aria-label="'.e($say).'"')
            .'><use href="#m-'
            .$name
            .'"/></svg>';
    }

    public static function chain(Chain $chain): HtmlString
    {
        return new HtmlString(
            '<span class="chain">'
                .self::mark($chain->drifted ? 'warn' : ($chain->inEffect ? 'ok' : ($chain->shipped ? 'turn' : 'wait')))
                .e($chain->words)
                .'</span>',
        );
    }

    /** A time that runs out: what is left of it as the filled part of a face, and until when in words. */
    public static function clock(float $left, string $words): HtmlString
    {
        $face = Drawing::clock($left, 11, 11);

        return new HtmlString(sprintf('<span class="chain"><svg class="m" viewBox="0 0 22 22" aria-hidden="true">%s</svg>%s</span>',
            $face, e($words)));
    }

    public static function swatch(Stage|string $stage): HtmlString
    {
        $stage = $stage instanceof Stage ? $stage->value : $stage;
        $fill = match ($stage) {
            'live' => '<rect class="water" y="50%" width="100%" height="50%"/><rect class="outline"/>',
            'retiring' => '<rect class="diag" width="100%" height="100%"/><rect class="outline"/>',
            'withheld' => '<rect class="cross" width="100%" height="100%"/><rect class="outline"/>',
            'open' => '<rect class="waves" width="100%" height="100%"/>',
            default => '<rect class="outline"/>',
        };

        return new HtmlString('<svg class="sw '.e($stage).'" role="img" aria-label="'.e($stage).'">'.$fill.'</svg>');
    }

    public static function gauge(float $percent, string $figure, bool $high = false): HtmlString
    {
        $fill = round(min(100, $percent), 1);
        $level = 100 - $fill;
        $line = $fill > 0 ? '<line class="level" x1="4" x2="18" y1="'.$level.'%" y2="'.$level.'%"/>' : '';

        return new HtmlString(
            '<svg class="gauge" aria-hidden="true"><rect class="water" x="4" y="'
                .$level
                .'%" width="14" height="'
                .$fill
                .'%"/>'
                .$line
                .'<path class="staff" d="M4 0v20h14V0M1 5h3M1 10h3M1 15h3"/></svg>'
                .e($figure)
                .($high ? ' '.self::mark('warn', 'high water') : ''),
        );
    }

    /** How many of so many, with a gauge where so many can be counted. */
    public static function filled(int $n, BigInteger $of): HtmlString
    {
        return $of->getBitLength() > 40
            ? new HtmlString(number_format($n))
            : self::gauge(100 * $n / max(1, $of->toInt()), number_format($n), $n / max(1, $of->toInt()) >= 0.8);
    }

    /** The bits of some bytes, those before $network as of the network. */
    public static function bits(string $bytes, int $network): HtmlString
    {
        $spans = '';
        foreach (
            str_split(implode('', array_map(static fn (string $b): string => sprintf('%08b', ord($b)), str_split($bytes)))) as $at => $bit
        ) {
            $spans .= '<span class="'.($at < $network ? 'netbit' : 'hostbit').'">'.$bit.'</span>';
        }

        return new HtmlString($spans);
    }

    /** @param  array{state: string, words: string, link: ?string, act?: mixed}  $cell  of a sheet */
    public static function cell(array $cell): HtmlString
    {
        if ($cell['state'] === 'idle') {
            return new HtmlString('<span class="open">'.e($cell['words'] === '' ? 'not needed' : $cell['words']).'</span>');
        }
        [$mark, $class] = match ($cell['state']) {
            'present' => ['ok', 'okay'],
            'missing' => ['stop', 'stopped'],
            default => ['warn', 'warn'],
        };
        $words = $cell['link'] === null ? e($cell['words']) : '<a href="'.e($cell['link']).'">'.e($cell['words']).'</a>';

        return new HtmlString('<span class="cell '.$class.'">'.self::mark($mark, $cell['state']).' '.$words.'</span>');
    }
}
