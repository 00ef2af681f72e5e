<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/** What changed from one text to another, line by line: the fewest lines that go and come, in the order of the text. */
final class LineDifference
{
    /** Beyond this many pairs of lines the middle that differs is told as gone and come. */
    private const PAIRS = 1_000_000;

    /** @return list<array{' '|'-'|'+', string}> */
    public static function of(string $before, string $after): array
    {
        [$a, $b] = [self::lines($before), self::lines($after)];
        $head = $tail = [];
        while ($a !== [] && $b !== [] && $a[0] === $b[0]) {
            $head[] = [' ', (string) array_shift($a)];
            array_shift($b);
        }
        while ($a !== [] && $b !== [] && end($a) === end($b)) {
            $tail[] = [' ', (string) array_pop($a)];
            array_pop($b);
        }

        return [...$head, ...self::middle($a, $b), ...array_reverse($tail)];
    }

    /**
     * The same with only some lines around each change; null stands for those left out.
     *
     * @return list<array{' '|'-'|'+', string}|null>
     */
    public static function around(string $before, string $after, int $context = 3): array
    {
        $all = self::of($before, $after);
        $near = [];
        foreach ($all as $i => [$op]) {
            for ($at = $op === ' ' ? PHP_INT_MAX : max(0, $i - $context); $at <= min($i + $context, count($all) - 1); $at++) {
                $near[$at] = true;
            }
        }
        $shown = [];
        foreach ($all as $i => $line) {
            if (isset($near[$i])) {
                $shown[] = $line;
            } elseif ($shown === [] || end($shown) !== null) {
                $shown[] = null;
            }
        }

        return $shown;
    }

    /**
     * @param  list<string>  $a
     * @param  list<string>  $b
     * @return list<array{' '|'-'|'+', string}>
     */
    private static function middle(array $a, array $b): array
    {
        [$n, $m] = [count($a), count($b)];
        $gone = static fn (string $l): array => ['-', $l];
        $come = static fn (string $l): array => ['+', $l];
        if ($n * $m > self::PAIRS || $n === 0 || $m === 0) {
            return [...array_map($gone, $a), ...array_map($come, $b)];
        }
        // How many lines the rests have in common, from the end.
        $common = array_fill(0, $n + 1, array_fill(0, $m + 1, 0));
        for ($i = $n - 1; $i >= 0; $i--) {
            for ($j = $m - 1; $j >= 0; $j--) {
                $common[$i][$j] = $a[$i] === $b[$j] ? $common[$i + 1][$j + 1] + 1 : max($common[$i + 1][$j], $common[$i][$j + 1]);
            }
        }
        $lines = [];
        for ($i = $j = 0; $i < $n && $j < $m;) {
            if ($a[$i] === $b[$j]) {
                $lines[] = [' ', $a[$i++]];
                $j++;
            } else {
                $lines[] = $common[$i + 1][$j] >= $common[$i][$j + 1] ? ['-', $a[$i++]] : ['+', $b[$j++]];
            }
        }

        return [...$lines, ...array_map($gone, array_slice($a, $i)), ...array_map($come, array_slice($b, $j))];
    }

    /** @return list<string> */
    private static function lines(string $text): array
    {
        return $text === '' ? [] : explode("\n", rtrim($text, "\n"));
    }
}
