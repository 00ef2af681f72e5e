<?php

declare(strict_types=1);

namespace App\View;

use App\Live\KeyLife;
use App\Live\ZoneSigned;
use App\Models\ZoneKey;
use Illuminate\Support\HtmlString;

/**
 * The keys of a zone over time: in the zone, in use, replaced; what is foreseen is dashed. The same stands in words in the table of keys.
 */
final class KeyLine
{
    private const ROW = 42;

    private const HEAD = 24;

    private const DAY = 86400;

    private int $from;

    private int $to;

    private function __construct(private readonly ZoneSigned $signed, private readonly int $now)
    {
        $times = [];
        foreach ($signed->keys as $key) {
            $life = $signed->life($key);
            $times = [...$times, $key->made, $life->published, $life->starts, $life->ends, $life->successor];
        }
        $times = array_filter($times, static fn (?int $t): bool => $t !== null);
        // Far ends are cut: what happens in the next weeks is what one looks for.
        $this->from = max(min([...$times, $now - 3 * self::DAY]), $now - 60 * self::DAY);
        $this->to = min(max([...$times, $now + 10 * self::DAY]) + 2 * self::DAY, $now + 100 * self::DAY);
    }

    public static function of(ZoneSigned $signed): HtmlString
    {
        return (new self($signed, now()->getTimestamp()))->draw();
    }

    private function draw(): HtmlString
    {
        $keys = $this->signed->keys->filter(fn (ZoneKey $k): bool => ($k->removed ?? PHP_INT_MAX) > $this->from)->values();
        $height = self::HEAD + self::ROW * $keys->count() + 22;
        $rows = '';
        foreach ($keys as $i => $key) {
            $rows .= '<svg y="'.(self::HEAD + 8 + self::ROW * $i).'" height="34" width="100%">'.$this->row($key, $this->signed
                ->life($key)).'</svg>';
        }
        $line = $this->percent($this->now);

        return new HtmlString(
            '<svg class="strip keyline" width="100%" height="'.$height.'" role="img" aria-label="'.e($this->words()).'">'
                .$this->scale($height).$rows.'<svg x="'.$line.'%" class="lead" overflow="visible">'
                .'<line y1="18" y2="'.($height - 16).'" class="now"/>'
                .'<text x="5" y="'.($height - 6).'" class="edit">now</text></svg></svg>',
        );
    }

    private function row(ZoneKey $key, KeyLife $life): string
    {
        $name = strtoupper($key->role->value).' '.$key->tag;
        $published = $life->published ?? $this->now;
        $starts = $life->starts ?? $life->ends ?? $this->to;
        $row = '';
        if ($starts > $published) {
            $row .= $this->bar($published, $starts, 'pub'.($life->published === null ? ' planned' : ''), $name, 'published', false);
        }
        if ($life->starts !== null) {
            $until = $life->retired ?? $life->ends ?? $this->to;
            $says = $life->started ? ($key->role->signsZone() ? 'signs' : 'named by the parent') : 'foreseen';
            $row .= $this->bar($starts, $until, $life->started ? 'act' : 'act planned', $name, $says, true);
        }
        if ($life->retired !== null) {
            $row .= $this->bar($life->retired, $life->ends ?? $this->to, 'pub'.($life->ended ? '' : ' planned'), '', 'replaced', false);
        }

        return $row;
    }

    private function bar(int $from, int $to, string $class, string $name, string $says, bool $filled): string
    {
        [$x, $end] = [$this->percent($from), $this->percent($to)];
        if ($end - $x < 0.3) {
            return '';
        }
        $texts = $end - $x < 7 ? '' : '<text x="6" y="15" class="nm">'.e($name).'</text><text x="6" y="28" class="sub">'.e($says).'</text>';

        return '<svg x="'.$x.'%" width="'.round($end - $x, 2).'%" height="34" class="'.$class.' hatched">'
            .($filled ? '<rect width="100%" height="100%" class="water"/>' : '').'<rect class="outline"/>'.$texts.'</svg>';
    }

    private function scale(int $height): string
    {
        $days = ($this->to - $this->from) / self::DAY;
        $step = $days > 70 ? 14 : ($days > 24 ? 7 : 2);
        $scale = '';
        for ($at = intdiv($this->from, self::DAY) * self::DAY + self::DAY; $at < $this->to; $at += $step * self::DAY) {
            $scale .= '<svg x="'.$this
                ->percent($at).'%" class="lead" overflow="visible"><line y1="18" y2="'.($height - 20).'" class="tickline"/>'
                .'<text x="3" y="12" class="mono sub">'.gmdate('j M', $at).'</text></svg>';
        }

        return $scale;
    }

    private function percent(int $at): float
    {
        return round(max(0, min(100, ($at - $this->from) / ($this->to - $this->from) * 100)), 2);
    }

    private function words(): string
    {
        $words = [];
        foreach ($this->signed->keys as $key) {
            $words[] = strtoupper($key->role->value)." $key->tag: ".($this->signed->state($key)?->words() ?? '')
                .($this->signed->next($key) === null ? '' : ", {$this->signed->next($key)}");
        }

        return 'Keys over time. '.implode('. ', $words);
    }
}
