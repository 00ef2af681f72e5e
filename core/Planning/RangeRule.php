<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/**
 * Which addresses of a subnet are leased, said so that it holds for subnets of any size: "from .20 to .200", "the upper half", "all but the
 * first 20", "the last 50". A number with a dot before it counts from the network's address; .1.10 is the 266th behind it.
 */
final readonly class RangeRule
{
    public const EXAMPLES = ['from .20 to .200', 'the upper half', 'all but the first 20', 'the last 50', 'all'];

    private const PARTS = ['half' => 2, 'third' => 3, 'quarter' => 4];

    /** @param  \Closure(int $usable): array{int, int}  $cut  from how many usable addresses which are taken, counted from 0 */
    private function __construct(public string $text, private \Closure $cut, private bool $fromNetwork)
    {
    }

    /** @throws NotUnderstood */
    public static function parse(string $text): self
    {
        $words = trim((string) preg_replace('/\s+/', ' ', mb_strtolower(mb_scrub($text))));
        $plain = (string) preg_replace('/\bthe /', '', $words);
        if (preg_match('/\A(?:from )?((?:\.\d{1,5}){1,2}) ?(?:to|-|–) ?((?:\.\d{1,5}){1,2})\z/u', $plain, $m) === 1) {
            [$first, $last] = [self::offset($m[1]), self::offset($m[2])];

            return $first <= $last
                ? new self($words, static fn (int $usable): array => [$first, $last], true)
                : throw NotUnderstood::at($text, (int) mb_strpos($text, $m[2]), 'the end of the range at or after its start');
        }
        if (preg_match('/\A(upper|lower) (half|third|quarter)\z/', $plain, $m) === 1) {
            $part = self::PARTS[$m[2]];

            return new self($words, static function (int $usable) use ($m, $part): array {
                $size = max(1, intdiv($usable, $part));

                return $m[1] === 'upper' ? [$usable - $size, $usable - 1] : [0, $size - 1];
            }, false);
        }
        if (preg_match('/\A(first|last) (\d{1,7})\z/', $plain, $m) === 1 && (int) $m[2] > 0) {
            $n = (int) $m[2];

            return new self(
                $words,
                static fn (int $usable): array => $m[1] === 'first' ? [0, $n - 1] : [$usable - $n, $usable - 1],
                false,
            );
        }
        if (preg_match('/\Aall(?: but (?:first (\d{1,7}))?(?: and )?(?:last (\d{1,7}))?)?\z/', $plain, $m) === 1) {
            [$head, $tail] = [(int) ($m[1] ?? 0), (int) ($m[2] ?? 0)];

            return new self($words, static fn (int $usable): array => [$head, $usable - 1 - $tail], false);
        }
        throw NotUnderstood::at($text, 0, 'a rule such as "'.implode('", "', self::EXAMPLES).'"');
    }

    /**
     * @return non-empty-list<AddressRange> without the gateway, which no server may lease
     *
     * @throws NotUnderstood when the subnet does not have so many addresses
     */
    public function in(Prefix $subnet, ?Address $gateway = null): array
    {
        $usable = $subnet->usable();
        $size = $usable->size()->toInt();
        [$first, $last] = ($this->cut)($size);
        // From the network's address, of which the first usable one may be the next.
        $shift = $this->fromNetwork ? $usable->first->minus($subnet->first)->toInt() : 0;
        [$first, $last] = [$first - $shift, $last - $shift];
        if ($first < 0 || $last >= $size || $first > $last) {
            throw NotUnderstood::at($this->text, 0, "a rule that fits into $subnet, which has $size usable addresses");
        }
        $range = AddressRange::of($usable->first->plus($first) ?? $usable->first, $usable->first->plus($last) ?? $usable->last);
        if ($gateway === null || ! $range->contains($gateway)) {
            return [$range];
        }
        $parts = [];
        $before = $gateway->plus(-1);
        $behind = $gateway->next();
        if ($before !== null && $range->contains($before)) {
            $parts[] = AddressRange::of($range->first, $before);
        }
        if ($behind !== null && $range->contains($behind)) {
            $parts[] = AddressRange::of($behind, $range->last);
        }

        return $parts !== [] ? $parts : throw NotUnderstood::at($this->text, 0, "a rule that takes more of $subnet than its gateway");
    }

    private static function offset(string $text): int
    {
        $offset = 0;
        foreach (explode('.', ltrim($text, '.')) as $part) {
            $offset = $offset * 256 + (int) $part;
        }

        return $offset;
    }
}
