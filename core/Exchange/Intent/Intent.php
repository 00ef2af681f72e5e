<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Intent;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\PrefixSet;

/**
 * What the clients of one link are meant to reach. Of several rules the one with the longest prefix goes first, and of two that are equal
 * the one that denies; a rule with a time of the week holds only then. What no rule speaks of is open.
 */
final readonly class Intent
{
    /** @param  list<Rule>  $rules */
    private function __construct(public array $rules)
    {
    }

    public static function of(Rule ...$rules): self
    {
        return new self(array_values($rules));
    }

    public function at(Address $to): Answer
    {
        $found = [];
        foreach ($this->rules as $rule) {
            $length = $rule->lengthAt($to);
            $length === null ?: $found[] = [$length, $rule];
        }
        usort($found, static fn (array $a, array $b): int => [$b[0], $a[1]->allows] <=> [$a[0], $b[1]->allows]);
        $times = [];
        foreach ($found as [, $rule]) {
            if ($rule->when === null) {
                return new Answer($rule->allows, $rule, self::otherwise($times, $rule->allows));
            }
            $times[] = $rule;
        }

        return new Answer(true, null, self::otherwise($times, true));
    }

    /** Is it meant to be open at this moment? */
    public function opens(Address $to, \DateTimeImmutable $moment): bool
    {
        $answer = $this->at($to);
        foreach ($answer->times as $rule) {
            if ($rule->when?->at($moment) !== null) {
                return $rule->allows;
            }
        }

        return $answer->allows;
    }

    /**
     * What a filter without a clock keeps clients from: all that rules without a time deny, except what clients need. Rules of a time of
     * the week are not in it.
     */
    public function denials(PrefixSet $needed): PrefixSet
    {
        $pieces = [];
        foreach ($this->rules as $rule) {
            foreach ($rule->when === null ? $rule->to : [] as $prefix) {
                $pieces[] = [$prefix->length, ! $rule->allows, $prefix];
            }
        }
        usort($pieces, static fn (array $a, array $b): int => [$a[0], $a[1]] <=> [$b[0], $b[1]]);
        $denied = PrefixSet::of();
        foreach ($pieces as [, $denies, $prefix]) {
            $denied = $denies ? $denied->union(PrefixSet::of($prefix)) : $denied->difference(PrefixSet::of($prefix));
        }

        return $denied->difference($needed);
    }

    /** @return list<Rule> that a filter without a clock does not carry */
    public function timed(): array
    {
        return array_values(array_filter($this->rules, static fn (Rule $r): bool => $r->when !== null));
    }

    /**
     * Those that change anything: a rule that says what holds anyway matters only where one before it says the opposite.
     *
     * @param  list<Rule>  $times
     * @return list<Rule>
     */
    private static function otherwise(array $times, bool $allows): array
    {
        foreach ($times as $rule) {
            if ($rule->allows !== $allows) {
                return $times;
            }
        }

        return [];
    }
}
