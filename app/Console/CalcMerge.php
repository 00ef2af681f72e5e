<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\PrefixSet;

final class CalcMerge extends Computes
{
    protected $signature = 'calc:merge {--json}';

    protected $description = 'The fewest prefixes that cover the prefixes and ranges on standard input';

    public function handle(): int
    {
        $ranges = [];
        foreach ($this->lines() as $number => $text) {
            try {
                $ranges[] = AddressRange::parse($text);
            } catch (NotUnderstood $e) {
                return $this->unusable("line $number: {$e->getMessage()}");
            }
        }
        $texts = array_map(strval(...), PrefixSet::of(...$ranges)->prefixes());
        $this->option('json') ? $this->json(['prefixes' => $texts]) : ($texts === [] ? null : $this->say(implode("\n", $texts)));

        return $texts === [] ? 1 : 0;
    }
}
