<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/**
 * A robust line through daily samples: the slope is the median of the slopes of all pairs (Theil 1950, Sen 1968), so that a few
 * wild days do not bend it; its spread is Sen's rank interval.
 *
 * Days are whole numbers from any zero; values are whatever is measured, percent for instance.
 */
final readonly class Trend
{
    public const FEWEST = 10;

    /** Fewer days than that between the first and the last sample say nothing of months. */
    public const SHORTEST = 14;

    private const MOST = 400;

    /** Two-sided 80 % of the normal distribution: the spread that is shown. */
    private const SPREAD = 1.2816;

    /** Two-sided 95 %: a slope whose interval holds zero is no trend. */
    private const SURE = 1.96;

    /**
     * @param  'few'|'none'|'rising'|'falling'  $kind  few: not enough samples; none: the slope may as well be zero
     */
    private function __construct(
        public string $kind,
        /** per day */
        public float $slope,
        public float $slopeLow,
        public float $slopeHigh,
        public float $middleDay,
        public float $middleValue,
        public int $samples,
    ) {
    }

    /** What of() found and somebody kept; the arguments are its properties. */
    public static function kept(
        string $kind,
        float $slope,
        float $slopeLow,
        float $slopeHigh,
        float $middleDay,
        float $middleValue,
        int $samples,
    ): self {
        return new self(
            in_array($kind, ['none', 'rising', 'falling'], true) ? $kind : 'few',
            $slope,
            $slopeLow,
            $slopeHigh,
            $middleDay,
            $middleValue,
            $samples,
        );
    }

    /** @param  array<int, float>  $samples  day → value, in any order */
    public static function of(array $samples): self
    {
        ksort($samples);
        $samples = count($samples) > self::MOST ? array_slice($samples, -self::MOST, null, true) : $samples;
        $days = array_keys($samples);
        $values = array_values($samples);
        $n = count($days);
        if ($n < self::FEWEST || $days[$n - 1] - $days[0] < self::SHORTEST) {
            return new self('few', 0, 0, 0, 0, 0, $n);
        }
        $slopes = [];
        for ($i = 0; $i < $n; $i++) {
            for ($j = $i + 1; $j < $n; $j++) {
                $slopes[] = ($values[$j] - $values[$i]) / ($days[$j] - $days[$i]);
            }
        }
        sort($slopes);
        [$low, $high] = self::interval($slopes, $n, self::SPREAD);
        [$least, $most] = self::interval($slopes, $n, self::SURE);
        $slope = self::median($slopes);
        $kind = match (true) {
            $least > 0 => 'rising',
            $most < 0 => 'falling',
            default => 'none',
        };

        return new self(
            $kind,
            $slope,
            $low,
            $high,
            self::median(array_map(floatval(...), $days)),
            self::medianOf($values, $days, $slope),
            $n,
        );
    }

    /**
     * Sen's interval: the slopes at two ranks around the middle.
     *
     * @param  list<float>  $slopes  sorted
     * @return array{float, float}
     */
    private static function interval(array $slopes, int $samples, float $z): array
    {
        $pairs = count($slopes);
        $reach = $z * sqrt($samples * ($samples - 1) * (2 * $samples + 5) / 18);

        return [$slopes[max(0, (int) floor(($pairs - $reach) / 2) - 1)], $slopes[min($pairs - 1, (int) ceil(($pairs + $reach) / 2))]];
    }

    /** The value of the line on a day. */
    public function on(int $day): float
    {
        return $this->middleValue + $this->slope * ($day - $this->middleDay);
    }

    /**
     * The day on which the line reaches a value, with the earliest and latest that the spread of the slope allows.
     *
     * @return array{day: int, earliest: int, latest: ?int}|null null when it does not rise; latest is null when it may take for ever
     */
    public function reaches(float $value): ?array
    {
        if ($this->kind !== 'rising' || $this->slope < 1e-12 || $this->slopeHigh < 1e-12) {
            return null;
        }
        $left = $value - $this->middleValue;
        $day = fn (float $slope): int => (int) round(max(-1e6, min(1e6, $this->middleDay + $left / $slope)));
        $at = $this->slopeLow < 1e-9 ? [$day($this->slopeHigh)] : [$day($this->slopeLow), $day($this->slopeHigh)];

        return ['day' => $day($this->slope), 'earliest' => min($at), 'latest' => $this->slopeLow < 1e-9 ? null : max($at)];
    }

    /** @param  list<float>  $sorted  at least one */
    private static function median(array $sorted): float
    {
        sort($sorted);
        $n = count($sorted);

        return $n % 2 === 1 ? $sorted[intdiv($n, 2)] : ($sorted[intdiv($n, 2) - 1] + $sorted[intdiv($n, 2)]) / 2;
    }

    /**
     * The height of the line at the middle day: the median of what each sample says of it.
     *
     * @param  list<float>  $values
     * @param  list<int>  $days
     */
    private static function medianOf(array $values, array $days, float $slope): float
    {
        $middle = self::median(array_map(floatval(...), $days));

        return self::median(array_map(static fn (float $v, int $d): float => $v - $slope * ($d - $middle), $values, $days));
    }
}
