<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning\Sides;

use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/**
 * Compares the prefixes of two systems. Every object of either side is in exactly one line: nothing is dropped, also not what cannot be
 * read, what stands twice, and what the rules of one side do not allow.
 *
 * The rules here: only what groups holds prefixes; beside that, one prefix holds another only from above. The rule there: what does not
 * group lies in something that does.
 */
final class TwoSides
{
    /** @var array<string, Held> "bytes length groups" → what is held here */
    private array $here = [];

    /** @var array<string, true> the same, of what groups, on either side */
    private array $groups = [];

    /** @var array<string, Held> prefixes here that do not group, by their first byte string and length */
    private array $links = [];

    /** @var list<array{string, string, Held}> first and last bytes of all here, by first */
    private array $sorted = [];

    /** @param  list<Held>  $here  which the rules here allow, each once */
    private function __construct(array $here)
    {
        foreach ($here as $held) {
            $net = Prefix::parse($held->prefix);
            $this->here[self::key($net, $held->groups)] = $held;
            $this->sorted[] = [$net->first->bytes, $net->last()->bytes, $held];
            $held->groups ? $this->groups[self::key($net, true)] = true : $this->links[self::key($net, false)] = $held;
        }
        usort($this->sorted, static fn (array $a, array $b): int => [strlen($a[0]), $a[0]] <=> [strlen($b[0]), $b[0]]);
    }

    /**
     * @param  list<Held>  $here
     * @param  list<Held>  $there
     * @return list<Pairing> by address, what cannot be read at the end
     */
    public static function compare(array $here, array $there): array
    {
        $sides = new self($here);
        $lines = $matched = [];
        $read = [];
        foreach ($there as $i => $held) {
            try {
                $net = Prefix::parse($held->prefix);
                $read[$i] = $net;
                $held->groups ? $sides->groups[self::key($net, true)] = true : null;
            } catch (NotUnderstood $e) {
                $lines[] = [['~', $held->prefix, 0], new Pairing(State::Unclear, null, $held, why: $e->getMessage())];
            }
        }
        foreach ($read as $i => $net) {
            $held = $there[$i];
            $key = self::key($net, $held->groups);
            if (isset($matched[$key])) {
                $lines[] = [self::order($net, $held->groups), new Pairing(State::Unclear, null, $held, why: 'it stands there twice')];

                continue;
            }
            $matched[$key] = true;
            $lines[] = [self::order($net, $held->groups), $sides->there($net, $held, $sides->here[$key] ?? null)];
        }
        foreach ($sides->here as $key => $held) {
            if (! isset($matched[$key])) {
                $lines[] = [self::order(Prefix::parse($held->prefix), $held->groups), $sides->onlyHere($held)];
            }
        }
        usort($lines, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return array_column($lines, 1);
    }

    private function there(Prefix $net, Held $there, ?Held $here): Pairing
    {
        if ($here !== null) {
            $fields = array_values(array_filter(
                array_keys(Held::VALUES),
                static fn (string $key): bool => $here->value($key) !== $there->value($key),
            ));

            return new Pairing($fields === [] ? State::Same : State::Differs, $here, $there, $fields);
        }
        for ($length = $net->length; $length >= 0; $length--) {
            $above = $this->links[self::key($net->first->in($length), false)] ?? null;
            if ($above !== null && ($length < $net->length || ! $there->groups)) {
                $why = "it lies inside $above->prefix, which holds hosts here and no prefixes";

                return new Pairing(State::RuleHere, null, $there, why: $why);
            }
        }
        $inside = $there->groups ? null : $this->inside($net);

        return $inside === null
            ? new Pairing(State::MissingHere, null, $there)
            : new Pairing(State::RuleHere, null, $there, why: "it would cover $inside->prefix, and only what groups holds prefixes here");
    }

    private function onlyHere(Held $held): Pairing
    {
        $net = Prefix::parse($held->prefix);
        for ($length = $held->groups ? -1 : $net->length; $length >= 0; $length--) {
            if (isset($this->groups[self::key($net->first->in($length), true)])) {
                return new Pairing(State::MissingThere, $held, null);
            }
        }

        return $held->groups
            ? new Pairing(State::MissingThere, $held, null)
            : new Pairing(State::RuleThere, $held, null, why: 'nothing that groups holds it, on neither side');
    }

    /** The first prefix here that lies inside another one. */
    private function inside(Prefix $net): ?Held
    {
        [$first, $last] = [$net->first->bytes, $net->last()->bytes];
        for ($low = 0, $high = count($this->sorted); $low < $high;) {
            $mid = intdiv($low + $high, 2);
            [strlen($this->sorted[$mid][0]), $this->sorted[$mid][0]] < [strlen($first), $first] ? $low = $mid + 1 : $high = $mid;
        }
        for ($at = $low; isset($this->sorted[$at]) && strlen($this->sorted[$at][0]) === strlen($first); $at++) {
            if (strcmp($this->sorted[$at][0], $last) > 0) {
                return null;
            }
            // A supernet of the same size may be filled by it.
            if (! ($this->sorted[$at][2]->groups && $this->sorted[$at][0] === $first && $this->sorted[$at][1] === $last)
                && strcmp($this->sorted[$at][1], $last) <= 0) {
                return $this->sorted[$at][2];
            }
        }

        return null;
    }

    private static function key(Prefix $net, bool $groups): string
    {
        return bin2hex($net->first->bytes)."/$net->length".($groups ? 'g' : '');
    }

    /** @return array{string, string, int} */
    private static function order(Prefix $net, bool $groups): array
    {
        return [(string) strlen($net->first->bytes), bin2hex($net->first->bytes), 2 * $net->length + ($groups ? 0 : 1)];
    }
}
