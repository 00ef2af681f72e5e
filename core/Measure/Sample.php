<?php

declare(strict_types=1);

namespace HarborPost\Core\Measure;

/**
 * One figure of a server: what it counts or measures, by its labels. Of a summary the sum and the count stand together, for their mean.
 */
final readonly class Sample
{
    public const COUNTER = 'counter';

    public const GAUGE = 'gauge';

    public const SUMMARY = 'summary';

    /**
     * @param  'counter'|'gauge'|'summary'  $type
     * @param  array<string, string>  $labels  sorted by name
     * @param  float  $value  a counter's total, a gauge's value, a summary's sum
     * @param  ?float  $count  of a summary
     */
    public function __construct(
        public string $family,
        public string $type,
        public array $labels,
        public float $value,
        public ?float $count = null,
        public string $unit = '',
        public string $help = '',
    ) {
    }

    /** Labels as one text: the same labels give the same. */
    public function key(): string
    {
        return implode(', ', array_map(static fn (string $n, string $v): string => "$n=$v", array_keys($this->labels), $this->labels));
    }

    /**
     * What is kept of it: a gauge as it is, a counter by the second, a summary as its mean. Null: there is nothing to say between the two,
     * as of a summary that counted nothing. A counter below what it was began anew at zero.
     *
     * @param  float  $seconds  since the reading before
     */
    public function since(?float $value, ?float $count, float $seconds): ?float
    {
        if ($this->type === self::GAUGE) {
            return $this->value;
        }
        if ($value === null || $seconds <= 0) {
            return null;
        }
        $restarted = $this->value < $value || $this->count !== null && $this->count < (float) $count;
        $grew = $this->value - ($restarted ? 0.0 : $value);
        if ($this->type === self::COUNTER) {
            return $grew / $seconds;
        }
        $counted = (float) $this->count - ($restarted ? 0.0 : (float) $count);

        return $counted > 0 ? $grew / $counted : null;
    }
}
