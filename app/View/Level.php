<?php

declare(strict_types=1);

namespace App\View;

use App\Models\Prefix;
use App\Models\PrefixKind;

/** How full a prefix is: addresses in use of usable in a subnet, space carved in a supernet. */
final readonly class Level
{
    private function __construct(public float $percent, public string $figure, public string $words, public bool $high)
    {
    }

    public static function of(Prefix $prefix): self
    {
        $columns = $prefix->getAttributes();
        if ($columns['kind'] === PrefixKind::Subnet->value) {
            $usable = self::usable((int) $columns['family'], (int) $columns['length']);
            $used = (int) ($columns['used'] ?? 0) + (($columns['gateway'] ?? null) === null ? 0 : 1);
            $percent = $usable === null ? 0.0 : min(100.0, 100 * $used / max(1, $usable));
            $figure = $usable === null ? number_format($used) : round($percent).'%';

            return new self(
                $percent,
                $figure,
                $usable === null ? number_format($used).' addresses in use' : round($percent).'% in use',
                $percent >= self::high(),
            );
        }
        $percent = $columns['kind'] === PrefixKind::Pool->value ? 0.0 : 100 * (float) ($columns['carved'] ?? 0);
        $figure = $percent > 0 && $percent < 1 ? '<1%' : round($percent).'%';

        return new self($percent, $figure, "$figure carved", $columns['kind'] === PrefixKind::Supernet->value && $percent >= self::high());
    }

    /** Addresses that hosts may have; null where counting them says nothing (more than 2^40). */
    public static function usable(int $family, int $length): ?int
    {
        $bits = ($family === 4 ? 32 : 128) - $length;

        return $bits > 40 ? null : (1 << $bits) - match (true) {
            $bits <= 1 => 0,
            $family === 4 => 2,
            default => 1,
        };
    }

    private static function high(): float
    {
        return (float) config('harbor.high_water');
    }
}
