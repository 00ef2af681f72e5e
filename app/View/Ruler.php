<?php

declare(strict_types=1);

namespace App\View;

use App\Models\Prefix;
use App\Models\Stage;
use App\Queries\RulerRows;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix as Net;

/**
 * A supernet to scale: children as blocks with a waterline, open space with its size, small neighbours joined into strata that
 * open on zoom. For IPv6 the scale is broken per nibble when the children are far smaller than their holder: then the strip
 * shows the children in order, each as wide as the other, and says so.
 */
final readonly class Ruler
{
    /** Blocks narrower than this share of the strip are joined. */
    private const FINE = 0.45;

    /**
     * @param  list<Block>  $blocks
     * @param  list<array{x: float, text: string}>  $ticks
     */
    private function __construct(public Net $range, public array $blocks, public array $ticks, public string $bar, public bool $broken)
    {
    }

    /**
     * @param  array<string, string>  $drafted  "prefix:id" → edit
     * @param  ?list<string>  $lit  first addresses, as bytes in order, of what a filter found: blocks that hold one light up, the others
     *     step back
     */
    public static function of(RulerRows $rows, ?string $chosen = null, array $drafted = [], ?array $lit = null): self
    {
        [$range, $children] = [$rows->range, $rows->children];
        $broken = $range->family() === Family::V6 && $children->isNotEmpty() && $children->max('length') - $range->length > 8;
        $blocks = $broken
            ? self::inOrder($children->all(), $chosen, $drafted)
            : self::toScale($range, $children->all(), $rows->open, $chosen, $drafted, $rows->parent, $rows->many);

        $blocks = $lit === null ? $blocks : array_map(fn (Block $b): Block => self::light($b, $lit), $blocks);

        return new self(
            $range,
            $blocks,
            $broken ? [] : self::ticks($range),
            $broken ? 'in order, scale broken: one step is one prefix' : 'one bar is a /'.min($range->length + 4, $range->family()->bits()),
            $broken,
        );
    }

    /** @param  list<string>  $lit */
    private static function light(Block $block, array $lit): Block
    {
        if ($block->from === '' || $block->kind === 'open') {
            return $block->with('dim');
        }
        // The first hit at or after the start of the block: is it still inside?
        $low = 0;
        $high = count($lit);
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            strcmp($lit[$middle], $block->from) < 0 ? $low = $middle + 1 : $high = $middle;
        }

        return $block->with(isset($lit[$low]) && strcmp($lit[$low], $block->to) <= 0 ? 'lit' : 'dim');
    }

    /**
     * @param  array<int, Prefix>  $children
     * @param  list<Net>  $open
     * @param  array<string, string>  $drafted
     * @return list<Block>
     */
    private static function toScale(
        Net $range,
        array $children,
        array $open,
        ?string $chosen,
        array $drafted,
        Prefix $parent,
        bool $many,
    ): array {
        $items = [];
        foreach ($children as $child) {
            $items[] = [$child->prefix(), $child];
        }
        foreach ($open as $net) {
            $items[] = [$net, null];
        }
        usort($items, fn (array $a, array $b): int => $a[0]->compare($b[0]));
        $blocks = [];
        $small = [];
        $cursor = 0.0;
        foreach ($items as [$net, $child]) {
            [$x, $width] = self::place($range, $net);
            if ($many && $x - $cursor > 0.01) {
                self::flush($blocks, $small, $parent);
                $blocks[] = new Block(
                    'strata',
                    $cursor,
                    $x - $cursor,
                    'strata',
                    'many small subnets; zoom in to see them',
                    'many small',
                    href: self::zoomTo($parent, $range, $cursor, $x),
                );
            }
            $cursor = $x + $width;
            if ($width < self::FINE && ($child === null || $child->id !== $chosen)) {
                $small[] = [$x, $width, $net, $child];

                continue;
            }
            self::flush($blocks, $small, $parent);
            $blocks[] = $child === null ? self::open($net, $x, $width) : self::child($child, $x, $width, $chosen, $drafted);
        }
        self::flush($blocks, $small, $parent);
        if ($many && $cursor < 99.99) {
            $blocks[] = new Block(
                'strata',
                $cursor,
                100 - $cursor,
                'strata',
                'many small subnets; zoom in to see them',
                'many small',
                href: self::zoomTo($parent, $range, $cursor, 100),
            );
        }

        return $blocks;
    }

    /**
     * @param  array<int, Prefix>  $children
     * @param  array<string, string>  $drafted
     * @return list<Block>
     */
    private static function inOrder(array $children, ?string $chosen, array $drafted): array
    {
        $shown = array_slice($children, 0, 40);
        $width = 100 / max(1, count($shown));

        return array_map(
            fn (Prefix $p, int $i): Block => self::child($p, $i * $width, $width, $chosen, $drafted),
            $shown,
            array_keys($shown),
        );
    }

    /** @param  array<string, string>  $drafted */
    private static function child(Prefix $child, float $x, float $width, ?string $chosen, array $drafted): Block
    {
        $net = $child->prefix();
        $level = Level::of($child);
        $look = trim(
            ($child->stage->isClosed() ? 'hatched ' : '')
                .$child->stage->value
                .($child->id === $chosen ? ' chosen' : '')
                .(isset($drafted["prefix:$child->id"]) ? ' drafted' : ''),
        );

        // What is not there yet, or kept from use, says so in place of how full it is.
        $silent = $child->stage === Stage::Withheld || $child->stage === Stage::Planned && $level->percent < 0.5;
        $says = $silent ? $child->stage->value : null;

        return new Block(
            'prefix',
            $x,
            $width,
            $look,
            trim("$child->name $net, {$child->stage->value}, $level->words")
                .($look !== $child->stage->value && isset($drafted["prefix:$child->id"]) ? ', '.$drafted["prefix:$child->id"] : ''),
            $child->name ?: (string) $net,
            (string) $net,
            "/$net->length",
            $says === null ? $level->percent : null,
            $says ?? $level->figure,
            at('plan.prefix', $child->id),
            match ($child->stage) {
                Stage::Withheld => 'cross', Stage::Retiring => 'diag', default => null
            }, null, $level->high, $net->first->bytes, $net->last()->bytes,
        );
    }

    private static function open(Net $net, float $x, float $width): Block
    {
        return new Block(
            'open',
            $x,
            $width,
            'open-water',
            "$net, open; choose it to carve here",
            "/$net->length open",
            (string) $net,
            "/$net->length",
            null,
            '',
            null,
            'waves',
            (string) $net,
        );
    }

    /**
     * @param  list<Block>  $blocks
     * @param  list<array{float, float, Net, ?Prefix}>  $small
     */
    private static function flush(array &$blocks, array &$small, Prefix $parent): void
    {
        if ($small === []) {
            return;
        }
        $subnets = array_filter($small, fn (array $s): bool => $s[3] !== null);
        $x = $small[0][0];
        $end = $small[count($small) - 1][0] + $small[count($small) - 1][1];
        $lengths = array_unique(array_map(fn (array $s): int => $s[2]->length, $subnets));
        if ($subnets === []) {
            $blocks[] = new Block('open', $x, $end - $x, 'open-water', count($small).' small open blocks', '', '', '', fill: 'waves');
        } else {
            $size = count($lengths) === 1 ? ', /'.reset($lengths) : '';
            $first = $small[0][2]->first;
            $last = $small[count($small) - 1][2]->last();
            for ($length = $parent->prefix()->family()->bits(); $length > 0 && ! $first->in($length)->contains($last); $length--);
            $blocks[] = new Block(
                'strata',
                $x,
                $end - $x,
                'strata',
                count($subnets).' subnets'.$size.' from '.$first.'; zoom in to see them',
                count($subnets).' subnets',
                ltrim($size, ', '),
                (string) count($subnets),
                href: at('plan.prefix', $parent->id).'?zoom='.urlencode((string) $first->in($length)),
                from: $first->bytes,
                to: $last->bytes,
            );
        }
        $small = [];
    }

    private static function zoomTo(Prefix $parent, Net $range, float $from, float $to): string
    {
        $size = $range->size();
        $first = $range->first->plus((string) $size->multipliedBy((int) round($from * 1000))->quotient(100000)) ?? $range->first;
        $last = $range->first->plus((string) $size->multipliedBy((int) round($to * 1000))->quotient(100000)->minus(1)) ?? $range->last();
        for ($length = $range->family()->bits(); $length > $range->length && ! $first->in($length)->contains($last); $length--);

        return at('plan.prefix', $parent->id).'?zoom='.urlencode((string) $first->in(max($length, $range->length + 1)));
    }

    /** @return array{float, float} where it starts and how wide it is, in percent */
    public static function place(Net $range, Net $net): array
    {
        if ($net->contains($range)) {
            return [0.0, 100.0];
        }
        if ($range->family() === Family::V4) {
            return [
                100 * (self::number($net) - self::number($range)) / 2.0 ** (32 - $range->length),
                100 * 2.0 ** ($range->length - $net->length),
            ];
        }
        $x = (float) (string) $net->first->minus($range->first)->toBigDecimal()->multipliedBy(100)
            ->dividedBy($range->size()->toBigDecimal(), 9, \Brick\Math\RoundingMode::HALF_UP);

        return [$x, 100 * 2.0 ** ($range->length - $net->length)];
    }

    private static function number(Net $net): int
    {
        return (int) hexdec(bin2hex($net->first->bytes));
    }

    /** @return list<array{x: float, text: string}> a quarter each, and the end */
    private static function ticks(Net $range): array
    {
        $ticks = [];
        if ($range->length + 2 <= $range->family()->bits()) {
            $at = $range->first;
            foreach ([0, 25, 50, 75] as $x) {
                $ticks[] = ['x' => (float) $x, 'text' => (string) $at];
                $at = Address::fromBytes(\HarborPost\Core\Net\Bits::next($at->in($range->length + 2)->last()->bytes) ?? $at->bytes);
            }
        }

        return $ticks;
    }
}
