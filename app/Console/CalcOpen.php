<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;
use HarborPost\Core\Planning\Fit;
use HarborPost\Core\Planning\OpenSpace;

final class CalcOpen extends Computes
{
    protected $signature = 'calc:open {--in=* : prefixes to look in} {--length= : only open prefixes of this length} {--count=1 '
        .': how many of them} {--fit=first : first, best or room} {--json}';

    protected $description = 'What is open in prefixes when the used ones on standard input are taken out';

    public function handle(): int
    {
        $fit = Fit::tryFrom((string) $this->option('fit'));
        $length = $this->option('length');
        $count = (string) $this->option('count');
        if ($fit === null || ! ctype_digit($count) || (int) $count < 1 || $length !== null && ! ctype_digit((string) $length)) {
            return $this->unusable('--fit is first, best or room; --count is a number from 1; --length is a prefix length');
        }
        if ($this->option('in') === []) {
            return $this->unusable('say with --in=PREFIX where to look');
        }
        try {
            $wholes = $this->wholes();
            $used = $this->used($wholes);
        } catch (NotUnderstood $e) {
            return $this->unusable($e->getMessage());
        }
        $longest = $wholes === [] ? 0 : max(array_map(fn (Prefix $p): int => $p->family()->bits(), $wholes));
        if ($length !== null && (int) $length > $longest) {
            return $this->unusable("--length is at most $longest here");
        }
        $space = null;
        foreach ($wholes as $whole) {
            $open = OpenSpace::in($whole, $used);
            $space = $space === null ? $open : $space->and($open);
        }
        $found = $space === null ? [] : ($length === null ? $space->blocks() : $space->several((int) $length, (int) $count, $fit));
        $texts = array_map(strval(...), $found);
        if ($this->option('json')) {
            $this->json(['in' => array_map(strval(...), $wholes), 'open' => $texts]);
        } else {
            $texts === [] ? $this->err('nothing is open') : $this->say(implode("\n", $texts));
        }

        return $texts === [] ? 1 : 0;
    }

    /** @return list<Prefix> sorted, those inside another left out */
    private function wholes(): array
    {
        $wholes = array_map(Prefix::parse(...), array_map(strval(...), (array) $this->option('in')));
        usort($wholes, fn (Prefix $a, Prefix $b): int => $a->compare($b));
        $apart = [];
        foreach ($wholes as $whole) {
            if ($apart === [] || ! $apart[count($apart) - 1]->contains($whole)) {
                $apart[] = $whole;
            }
        }

        return $apart;
    }

    /**
     * @param  list<Prefix>  $wholes
     * @return list<AddressRange>
     */
    private function used(array $wholes): array
    {
        $used = [];
        foreach ($this->lines() as $number => $text) {
            try {
                $range = AddressRange::parse($text);
            } catch (NotUnderstood $e) {
                throw NotUnderstood::at($text, $e->offset, "line $number: $e->expected");
            }
            $inside = array_filter($wholes, fn (Prefix $w): bool => $w->range()->overlaps($range));
            $inside === [] ? $this->err("line $number: $text is outside --in and ignored") : $used[] = $range;
        }

        return $used;
    }
}
