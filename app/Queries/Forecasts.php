<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use HarborPost\Core\Planning\Trend;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** Daily samples of use and the trends through them. Trends are fitted once a day, pages only read them. */
final class Forecasts
{
    /** Days of samples that a trend is fitted to, and how many of them at most. */
    public const WINDOW = 180;

    private const THINNED = 60;

    public static function today(): int
    {
        return intdiv(now()->getTimestamp(), 86400);
    }

    /**
     * Samples of one prefix, for its chart.
     *
     * @return array<int, float> day → percent
     */
    public static function samples(Prefix $prefix): array
    {
        return DB::table('use_samples')->where('prefix_id', $prefix->id)
            ->where('day', '>', self::today() - self::WINDOW)->orderBy('day')->pluck('percent', 'day')
            ->map(fn ($p): float => (float) $p)->all();
    }

    public static function of(Prefix $prefix): ?Trend
    {
        $row = DB::table('forecasts')->where('prefix_id', $prefix->id)->first();

        return $row === null ? null : self::trend($row);
    }

    /**
     * What fills first inside a prefix.
     *
     * @return list<array{prefix: Prefix, trend: Trend, percent: float}>
     */
    public static function first(Prefix $inside, Reach $reach, int $count = 6): array
    {
        $rows = DB::table('forecasts')->join('prefixes', 'prefixes.id', '=', 'forecasts.prefix_id')
            ->where('prefixes.space_id', $inside->space_id)->where('prefixes.family', $inside->family)
            ->whereBetween('prefixes.first', [$inside->first->bytes, $inside->prefix()->last()->bytes])->where(
                'prefixes.length',
                '>',
                $inside->length,
            )
            ->whereNotNull('full_day')->where('percent', '<', 100)->orderBy('full_day')->limit($count)->get('forecasts.*');
        $prefixes = $reach->prefixes()->with('site')->whereIn('id', $rows->pluck('prefix_id'))->get()->keyBy('id');
        $found = [];
        foreach ($rows as $row) {
            if (isset($prefixes[$row->prefix_id])) {
                $found[] = ['prefix' => $prefixes[$row->prefix_id], 'trend' => self::trend($row), 'percent' => (float) $row->percent];
            }
        }

        return $found;
    }

    /**
     * Which of these prefixes will be full, the soonest first.
     *
     * @param  Builder<Prefix>  $of
     * @return list<array{prefix: Prefix, percent: float, day: int}> the day counts from 1970
     */
    public static function filling(Builder $of, int $count): array
    {
        $found = $of->with('site')->join('forecasts', 'forecasts.prefix_id', '=', 'prefixes.id')
            ->where('forecasts.percent', '<', 100)->where('forecasts.full_day', '>=', self::today())
            ->orderBy('forecasts.full_day')->orderBy('prefixes.id')->limit($count)
            ->get(['prefixes.*', 'forecasts.percent AS at_percent', 'forecasts.full_day AS at_day']);

        return array_values($found->map(static fn (Prefix $p): array => [
            'prefix' => $p, 'percent' => (float) $p->getAttribute('at_percent'), 'day' => (int) $p->getAttribute('at_day'),
        ])->all());
    }

    /** Writes today's sample of every IPv4 subnet and of every supernet; the same day again overwrites it. */
    public static function sample(?int $day = null): int
    {
        $day ??= self::today();

        return DB::affectingStatement("INSERT INTO use_samples (prefix_id, day, percent)
            SELECT id, ?, CASE WHEN kind = 'subnet' THEN LEAST(100, 100 * (used + (gateway IS NOT NULL))
                / GREATEST(1, POW(2, 32 - length) - IF(length >= 31, 0, 2)))
                ELSE 100 * carved END
            FROM prefixes WHERE kind = 'supernet' OR kind = 'subnet' AND family = 4 AND length < 31
            ON DUPLICATE KEY UPDATE percent = VALUES(percent)", [$day]);
    }

    /** Fits the trends anew, from samples that are read in the order of their key. */
    public static function fit(): int
    {
        $from = self::today() - self::WINDOW;
        $fitted = 0;
        $batch = [];
        $samples = [];
        $at = null;
        foreach (DB::table('use_samples')->where('day', '>', $from)->orderBy('prefix_id')->orderBy('day')->lazy(20000) as $row) {
            if ($at !== null && $at !== $row->prefix_id) {
                $batch[] = self::row($at, $samples);
                $samples = [];
                $fitted++;
                if (count($batch) >= 500) {
                    DB::table('forecasts')->upsert($batch, ['prefix_id']);
                    $batch = [];
                }
            }
            $at = $row->prefix_id;
            $samples[(int) $row->day] = (float) $row->percent;
        }
        if ($at !== null) {
            $batch[] = self::row($at, $samples);
            $fitted++;
        }
        $batch === [] || DB::table('forecasts')->upsert($batch, ['prefix_id']);
        DB::table('use_samples')->where('day', '<', self::today() - 3 * 365)->delete();

        return $fitted;
    }

    /**
     * @param  array<int, float>  $samples
     * @return array<string, mixed>
     */
    private static function row(string $prefix, array $samples): array
    {
        $percent = $samples === [] ? 0.0 : $samples[array_key_last($samples)];
        $trend = Trend::of(self::thinned($samples));
        $full = $trend->reaches(100.0);

        return [
            'prefix_id' => $prefix, 'percent' => $percent, 'kind' => $trend->kind, 'samples' => count($samples),
            'slope' => $trend->slope, 'slope_low' => $trend->slopeLow, 'slope_high' => $trend->slopeHigh,
            'middle_day' => $trend->middleDay,
            'middle_value' => $trend->middleValue,
            'full_day' => $percent >= 100
                ? self::today()
                : ($full === null || $full['day'] > self::today() + 3650 ? null : max(self::today(), $full['day'])),
        ];
    }

    /**
     * @param  array<int, float>  $samples
     * @return array<int, float> spread evenly, the newest always among them
     */
    private static function thinned(array $samples): array
    {
        $count = count($samples);
        if ($count <= self::THINNED) {
            return $samples;
        }
        $days = array_keys($samples);
        $kept = [];
        for ($i = 0; $i < self::THINNED; $i++) {
            $day = $days[(int) round(($count - 1) * $i / (self::THINNED - 1))];
            $kept[$day] = $samples[$day];
        }

        return $kept;
    }

    private static function trend(\stdClass $row): Trend
    {
        return Trend::kept(
            $row->kind,
            (float) $row->slope,
            (float) $row->slope_low,
            (float) $row->slope_high,
            (float) $row->middle_day,
            (float) $row->middle_value,
            (int) $row->samples,
        );
    }
}
