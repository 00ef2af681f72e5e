<?php

declare(strict_types=1);

namespace App\Console;

use App\Queries\PrefixFacts;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Understood;

final class CalcPrefix extends Computes
{
    protected $signature = 'calc:prefix {text* : a prefix, an address with a mask, a range that is a prefix, or an address} {--json}';

    protected $description = 'Everything that follows from a prefix';

    public function handle(): int
    {
        $text = implode(' ', (array) $this->argument('text'));
        try {
            $understood = Understood::from($text);
        } catch (NotUnderstood $e) {
            return $this->unusable($e->getMessage()."\n".$e->pointer());
        }
        if ($understood->prefix === null) {
            return $this->unusable(
                "\"$text\" is a range of {$understood->range->size()} addresses, not a prefix. "
                .'calc:merge gives the fewest prefixes that cover it.',
            );
        }
        $facts = PrefixFacts::of($understood->prefix);
        if ($this->option('json')) {
            $this->json($facts);

            return 0;
        }
        if ($understood->hostBits) {
            $this->say("read as the network of {$understood->address}");
        }
        foreach ($facts as $key => $value) {
            $this->say(
                sprintf(
                    '%-14s %s',
                    str_replace('_', ' ', $key),
                    is_array($value)
                        ? implode(' ', array_slice($value, 0, 8)).(count($value) > 8 ? ' … '.count($value).' zones' : '')
                        : ($value ?? 'none'),
                ),
            );
        }

        return 0;
    }
}
