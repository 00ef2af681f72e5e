<?php

declare(strict_types=1);

namespace App\View;

use App\Models\Prefix;

/** How full a prefix is: addresses in use of usable in a subnet, space carved in a supernet. */
final readonly class Level
{
    private function __construct(public float $percent, public string $figure, public string $words, public bool $high)
    {
    }

    public static function of(Prefix $prefix): self
    {
        if ($prefix->kind === 'subnet') {
            $usable = $prefix->prefix()->usable()->size();
            $used = $prefix->used + ($prefix->gateway === null ? 0 : 1);
            $percent = $usable->getBitLength() > 40 ? 0.0 : min(100.0, 100 * $used / max(1, $usable->toInt()));
            $figure = $usable->getBitLength() > 40 ? number_format($used) : round($percent).'%';

            return new self($percent, $figure, $usable->getBitLength() > 40 ? number_format($used).' addresses in use' : round($percent).'% in use', $percent >= (float) config('harbor.high_water'));
        }
        $percent = $prefix->kind === 'pool' ? 0.0 : 100 * $prefix->carved;
        $figure = $percent > 0 && $percent < 1 ? '<1%' : round($percent).'%';

        return new self($percent, $figure, "$figure carved", $prefix->kind === 'supernet' && $percent >= (float) config('harbor.high_water'));
    }
}
