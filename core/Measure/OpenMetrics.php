<?php

declare(strict_types=1);

namespace HarborPost\Core\Measure;

/**
 * Reads the text that servers tell their figures in: OpenMetrics 1.0, and the older text form without an end mark. Gauges, counters,
 * summaries and the sums of histograms are taken; buckets, quantiles and figures that are no number are left out and counted.
 */
final class OpenMetrics
{
    /** @var list<Sample> */
    public array $samples = [];

    /** Figures that were left out: not a number, buckets, quantiles. */
    public int $left = 0;

    /** Samples beyond the limit. */
    public int $beyond = 0;

    /** The text says that it ended; what has no end mark may be cut. */
    public bool $ended = false;

    /** @var array<string, array{type: string, unit: string, help: string}> */
    private array $families = [];

    /** @var array<string, array{0: Sample, 1: ?float, 2: ?float}> family and labels → a summary as its two lines come */
    private array $summaries = [];

    private function __construct(private readonly int $most)
    {
    }

    /** @throws \UnexpectedValueException with the line at fault */
    public static function read(string $text, int $most = 1000): self
    {
        $read = new self($most);
        foreach (preg_split('/\r?\n/', $text) ?: [] as $n => $line) {
            if ($read->ended && trim($line) !== '') {
                throw new \UnexpectedValueException('line '.($n + 1).': something stands behind the end mark');
            }
            $read->line($line, $n + 1);
        }
        foreach ($read->summaries as [$sample, $sum, $count]) {
            if ($sum !== null && $count !== null) {
                $read->keep(new Sample($sample->family, Sample::SUMMARY, $sample->labels, $sum, $count, $sample->unit, $sample->help));
            }
        }

        return $read;
    }

    private function line(string $line, int $n): void
    {
        if (trim($line) === '') {
            return;
        }
        if ($line === '# EOF') {
            $this->ended = true;

            return;
        }
        if ($line[0] === '#') {
            if (preg_match('/\A# (TYPE|UNIT|HELP) (\S+)\s?(.*)\z/s', $line, $m) === 1) {
                $this->families[$m[2]] ??= ['type' => 'unknown', 'unit' => '', 'help' => ''];
                $this->families[$m[2]][strtolower($m[1])] = $m[1] === 'HELP' ? stripcslashes($m[3]) : $m[3];
            }

            return;
        }
        if (preg_match('/\A([a-zA-Z_:][a-zA-Z0-9_:]*)(\{.*\})?[ \t]+(\S+)(?:[ \t]+\S+)?(?:[ \t]+#.*)?\z/s', $line, $m) !== 1) {
            throw new \UnexpectedValueException("line $n: this is no figure: ".mb_strimwidth($line, 0, 60, '…'));
        }
        $labels = $m[2] === '' ? [] : $this->labels(substr($m[2], 1, -1), $n);
        if (! is_numeric($m[3])) {
            if (preg_match('/\A[+-]?(Inf|NaN)\z/i', $m[3]) !== 1) {
                throw new \UnexpectedValueException("line $n: \"$m[3]\" is no number");
            }
            $this->left++;

            return;
        }
        $value = (float) $m[3];
        is_finite($value) ? $this->take($m[1], $labels, $value) : $this->left++;
    }

    /** @param  array<string, string>  $labels */
    private function take(string $name, array $labels, float $value): void
    {
        $family = $this->family($name);
        $of = $this->families[$family] ?? ['type' => 'unknown', 'unit' => '', 'help' => ''];
        $suffix = substr($name, strlen($family));
        if (in_array($of['type'], ['summary', 'histogram'], true)) {
            if (! in_array($suffix, ['_sum', '_count'], true)) {
                $suffix === '_created' ?: $this->left++;

                return;
            }
            $sample = new Sample($family, Sample::SUMMARY, $labels, 0.0, 0.0, $of['unit'], $of['help']);
            $key = "$family {$sample->key()}";
            $this->summaries[$key] ??= [$sample, null, null];
            $this->summaries[$key][$suffix === '_sum' ? 1 : 2] = $value;

            return;
        }
        if ($suffix === '_created') {
            return;
        }
        $counts = $of['type'] === 'counter' || $of['type'] === 'unknown' && str_ends_with($name, '_total');
        $this->keep(new Sample($family, $counts ? Sample::COUNTER : Sample::GAUGE, $labels, $value, null, $of['unit'], $of['help']));
    }

    private function keep(Sample $sample): void
    {
        count($this->samples) < $this->most ? $this->samples[] = $sample : $this->beyond++;
    }

    /** The family that a line belongs to: its name, or its name without what is put behind by the type. */
    private function family(string $name): string
    {
        if (isset($this->families[$name])) {
            return $name;
        }
        foreach (['_total', '_sum', '_count', '_bucket', '_created'] as $suffix) {
            $stem = str_ends_with($name, $suffix) ? substr($name, 0, -strlen($suffix)) : '';
            if ($stem !== '' && (isset($this->families[$stem]) || $suffix === '_total')) {
                return $stem;
            }
        }

        return $name;
    }

    /** @return array<string, string> */
    private function labels(string $text, int $n): array
    {
        $labels = [];
        $rest = trim($text);
        while ($rest !== '') {
            if (preg_match('/\A([a-zA-Z_][a-zA-Z0-9_]*)="((?:[^"\\\\]|\\\\.)*)"\s*(?:,\s*|\z)/s', $rest, $m) !== 1) {
                throw new \UnexpectedValueException("line $n: the labels are not understood: ".mb_strimwidth($rest, 0, 60, '…'));
            }
            $labels[$m[1]] = strtr($m[2], ['\\\\' => '\\', '\\"' => '"', '\\n' => "\n"]);
            $rest = substr($rest, strlen($m[0]));
        }
        ksort($labels);

        return $labels;
    }
}
