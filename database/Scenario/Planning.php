<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Actions\Directory\MakeOwnField;
use App\Actions\Directory\SetSetting;
use App\Actions\Plan\ChangePrefix;
use App\Actions\Plan\Counter;
use App\Models\Prefix;
use App\Queries\Forecasts;
use App\View\Level;
use Illuminate\Support\Facades\DB;

/** Settings that flow down, tags and own fields, and a history of daily samples from which trends are read. */
final readonly class Planning
{
    private const DAYS = 120;

    public function __construct(private Kittiwake $k)
    {
    }

    /** Before scopes are made: what they inherit. */
    public function settings(): void
    {
        $this->k->do(
            new SetSetting('organisation', 'resolvers', '', '10.32.0.54 10.38.0.53'), new SetSetting('organisation', 'domain', '', 'kittiwake.example'),
            new SetSetting('organisation', 'search', '', 'kittiwake.example'), new SetSetting('organisation', 'gateway', '', 'first'),
        );
        foreach ([...Kittiwake::TERMINALS, ...Kittiwake::VESSELS] as $site => [$label]) {
            $this->k->do(new SetSetting('site', 'domain', $this->k->id("site $site"), "$label.kittiwake.example"), new SetSetting('site', 'search', $this->k->id("site $site"), "$label.kittiwake.example kittiwake.example"));
        }
        // Over the satellite link the nearer resolver comes first.
        $this->k->do(new SetSetting('site', 'resolvers', $this->k->id('site Hallowmere'), '10.38.0.53 10.32.0.54'));
        $field = MakeOwnField::fromInput(['id' => $this->k->id('field power'), 'name' => 'Power', 'kind' => 'choice', 'choices' => 'shore, generator, battery']);
        $this->k->do($field, MakeOwnField::fromInput(['id' => $this->k->id('field cabinet'), 'name' => 'Cabinet', 'kind' => 'text']));
        foreach (['Gates' => 'access, guarded', 'CCTV' => 'guarded', 'Deck Wi-Fi' => 'public', 'Management' => 'guarded'] as $purpose => $tags) {
            $ids = array_values(array_map(fn (array $s): string => $s['id'], array_filter($this->k->subnets, fn (array $s): bool => $s['purpose'] === $purpose)));
            $this->k->do(new ChangePrefix($ids, tags: $tags, own: $purpose === 'Gates' ? [$this->k->id('field power') => 'battery'] : []));
        }
    }

    /** After hosts are placed: samples that lead to what is counted today, some rising, some not, some too few. */
    public function samples(): void
    {
        Counter::fold();
        mt_srand(4711);
        $today = Forecasts::today();
        $rows = [];
        foreach (Prefix::query()->where('family', 4)->whereIn('kind', ['subnet', 'supernet'])->orderBy('first')->get() as $i => $prefix) {
            $now = Level::of($prefix)->percent;
            $days = $i % 11 === 7 ? 6 : self::DAYS;
            // Points a day: a third rises, a few fall, the rest swings around its level.
            $slope = match ($i % 6) {
                0, 3 => $now * (0.0015 + mt_rand(0, 30) / 10000),
                4 => -$now * 0.0008,
                default => 0.0,
            };
            $swing = $prefix->kind === 'supernet' ? 0.0 : max(0.4, $now * 0.02);
            for ($back = $days; $back >= 1; $back--) {
                $value = $now - $slope * $back + $swing * (mt_rand(-1000, 1000) / 1000);
                $rows[] = ['prefix_id' => $prefix->id, 'day' => $today - $back, 'percent' => max(0, min(100, round($value, 3)))];
            }
        }
        foreach (array_chunk($rows, 2000) as $chunk) {
            DB::table('use_samples')->insertOrIgnore($chunk);
        }
        Forecasts::sample();
        Forecasts::fit();
    }
}
