<?php

declare(strict_types=1);

namespace HarborPost\Standins;

/** What a stand-in counts and measures, told as OpenMetrics text. */
final class Measures
{
    /** @var array<string, array<string, float>> family → labels as text → value */
    private array $values = [];

    /** @var array<string, array<string, array{float, int}>> family → labels as text → sum and count */
    private array $sums = [];

    /** @param  array<string, array{0: 'counter'|'gauge'|'summary', 1: string, 2?: string}>  $families  name → type, help, unit */
    public function __construct(private readonly array $families)
    {
    }

    /** @param  array<string, string>  $labels */
    public function add(string $family, array $labels = [], float $by = 1): void
    {
        $key = self::key($labels);
        $this->values[$family][$key] = ($this->values[$family][$key] ?? 0.0) + $by;
    }

    /** @param  array<string, string>  $labels */
    public function set(string $family, float $value, array $labels = []): void
    {
        $this->values[$family][self::key($labels)] = $value;
    }

    public function time(string $family, float $seconds): void
    {
        [$sum, $count] = $this->sums[$family][''] ?? [0.0, 0];
        $this->sums[$family][''] = [$sum + $seconds, $count + 1];
    }

    public function text(): string
    {
        $lines = [];
        foreach ($this->families as $name => $family) {
            $lines[] = "# TYPE $name $family[0]";
            isset($family[2]) ? $lines[] = "# UNIT $name $family[2]" : null;
            $lines[] = "# HELP $name $family[1]";
            foreach ($this->values[$name] ?? [] as $labels => $value) {
                $lines[] = $name.($family[0] === 'counter' ? '_total' : '').$labels.' '.json_encode($value);
            }
            foreach ($this->sums[$name] ?? [] as $labels => [$sum, $count]) {
                array_push($lines, "{$name}_sum$labels ".json_encode($sum), "{$name}_count$labels $count");
            }
        }

        return implode("\n", [...$lines, '# EOF'])."\n";
    }

    /** @param  array<string, string>  $labels */
    private static function key(array $labels): string
    {
        return $labels === [] ? '' : '{'.implode(',', array_map(
            static fn (string $n, string $v): string => $n.'="'.addcslashes($v, "\\\"\n").'"',
            array_keys($labels),
            $labels,
        )).'}';
    }
}
