<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/**
 * Ports of a switch as people write them: names apart by commas, and runs of numbers at the end of a name. `1-3, gi1/0/7-8, uplink` are
 * 1, 2, 3, gi1/0/7, gi1/0/8 and uplink.
 */
final class PortList
{
    public const MOST = 512;

    /**
     * @return non-empty-list<string> in the order written, each once
     *
     * @throws \InvalidArgumentException with words for people
     */
    public static function parse(string $text): array
    {
        $ports = [];
        foreach (preg_split('/[,;\s]+/', trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: [] as $part) {
            if (preg_match('/\A(.*?)(\d+)-(\d+)\z/', $part, $m) !== 1) {
                $ports[$part] = true;

                continue;
            }
            [$from, $to] = [(int) $m[2], (int) $m[3]];
            if ($to < $from) {
                throw new \InvalidArgumentException("\"$part\" runs backwards");
            }
            if ($to - $from >= self::MOST) {
                throw new \InvalidArgumentException("\"$part\" is more than ".self::MOST.' ports');
            }
            for ($n = $from; $n <= $to; $n++) {
                $ports[$m[1].$n] = true;
            }
        }
        $names = array_map(strval(...), array_keys($ports));
        foreach ($names as $name) {
            if (strlen($name) > 40 || preg_match('/\A[A-Za-z0-9][A-Za-z0-9._\/:-]*\z/', $name) !== 1) {
                throw new \InvalidArgumentException("\"$name\" is no name of a port");
            }
        }
        if ($names === [] || count($names) > self::MOST) {
            throw new \InvalidArgumentException($names === [] ? 'write ports, as 1-24' : 'at most '.self::MOST.' ports at once');
        }

        return $names;
    }

    /**
     * Names as the shortest text that parses to them: runs joined.
     *
     * @param  list<string>  $names
     */
    public static function shorten(array $names): string
    {
        natsort($names);
        $runs = [];
        foreach ($names as $name) {
            preg_match('/\A(.*?)(\d*)\z/', $name, $m);
            [$stem, $number] = [$m[1] ?? $name, $m[2] ?? ''];
            $last = array_key_last($runs);
            // A leading zero is a part of the name: such numbers are not counted on.
            $plain = $number !== '' && (string) (int) $number === $number;
            if ($last !== null && $plain && $runs[$last][0] === $stem && $runs[$last][2] === (int) $number - 1) {
                $runs[$last][2] = (int) $number;
            } else {
                $runs[] = [$stem, $number, $plain ? (int) $number : null];
            }
        }

        return implode(', ', array_map(
            static fn (array $r): string => $r[0].$r[1].($r[2] !== null && (string) $r[2] !== $r[1] ? "-$r[2]" : ''),
            $runs,
        ));
    }
}
