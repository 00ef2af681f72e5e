<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\KeepRightTest;
use App\Acts\Directory\SetMail;
use App\Acts\Engine\Acts;
use App\Acts\Watch\KeepAudit;
use App\Acts\Watch\KeepReport;
use App\Acts\Watch\TakeNotices;
use App\Acts\Watch\WaiveFinding;
use App\Domain\Watch\AuditRun;
use App\Domain\Watch\NoticeLook;
use App\Domain\Watch\ReportRun;
use App\Models\Audit;
use App\Models\Notice;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** Reports that were brought for some weeks, and rules about the data with what they found. */
final readonly class Watching
{
    public function __construct(private Acts $acts, private Kittiwake $k)
    {
    }

    public function load(): void
    {
        $this->reports();
        $this->audits();
        $this->rights();
        foreach (['maren' => 'daily', 'ilke' => 'now', 'tobin' => 'now'] as $who => $when) {
            $person = Person::query()->where('sign_in', $who)->firstOrFail();
            $this->acts->commit($person, [new SetMail("$who@kittiwake.example", $when)]);
        }
        (new Figures($this->k))->load();
    }

    /** What the Harbour Authority's admin must not see: one of the two is not so any more. */
    private function rights(): void
    {
        $quill = $this->k->id('person quill');
        foreach (['10.32.0.0/12', '10.40.22.0/26'] as $i => $prefix) {
            $this->k->do(KeepRightTest::fromInput([
                'id' => $this->k->id("right $i"), 'person' => $quill, 'object' => $prefix, 'does' => 'see', 'expected' => 'no',
            ]));
        }
    }

    /** What holds since some time by now, and one notice that somebody looks after; when the servers were looked at. */
    public function notices(): void
    {
        NoticeLook::now();
        DB::table('notices')->update(['since' => now()->subHours(3)]);
        NoticeLook::now();
        $notice = Notice::open()->orderBy('title')->first();
        $ilke = Person::query()->where('sign_in', 'ilke')->first();
        $notice === null || $ilke === null ?: $this->acts->commit($ilke, [new TakeNotices([$notice->id])]);
    }

    private function reports(): void
    {
        $maren = Person::query()->where('sign_in', 'maren')->firstOrFail();
        $people = [$maren->id, $this->k->id('person ilke')];
        $own = [
            [
                'name' => 'Full subnets', 'kind' => 'subnet', 'where' => ['1-fact' => 'use', '1-test' => 'above', '1-value' => '80'],
                'sort' => '-use', 'by' => 'site', 'columns' => ['prefix', 'name', 'vlan', 'use', 'used', 'usable'], 'every' => 'week',
                'day' => '1', 'time' => '07:00', 'zone' => 'Europe/London', 'people' => $people,
            ],
            [
                'name' => 'Who changed what', 'kind' => 'change', 'where' => ['1-fact' => 'days', '1-test' => 'below', '1-value' => '7'],
                'sort' => '-at', 'columns' => ['at', 'person', 'act', 'first', 'rows', 'reason'], 'every' => 'month', 'day' => '1',
                'time' => '06:30', 'zone' => 'Europe/London', 'people' => [...$people, $this->k->id('person quill')],
            ],
            [
                'name' => 'Zones that are not signed', 'kind' => 'zone', 'where' => ['1-fact' => 'policy', '1-test' => 'unset'],
                'columns' => ['zone', 'view', 'serial', 'records', 'servers'], 'sort' => '-records', 'people' => [],
            ],
        ];
        foreach ($own as $i => $input) {
            $outcome = $this->acts->commit(
                $maren,
                [KeepReport::fromInput(['id' => $this->k->id("report $i")] + $input)],
                [],
                'wanted as it is',
            );
            if ($outcome->blocked()) {
                throw new \RuntimeException('The scenario does not load: '.($outcome->block()->message ?? $outcome->trouble));
            }
        }
        // The runs of the last weeks, as they were due.
        foreach ([0, 1] as $i) {
            $id = $this->k->id("report $i");
            $next = DB::table('reports')->where('id', $id)->value('due_at');
            DB::table('reports')->where('id', $id)->update(['due_at' => now()->utc()->startOfWeek()->addHours(7)->format('Y-m-d H:i:s')]);
            ReportRun::due();
            DB::table('reports')->where('id', $id)->update(['due_at' => $next]);
            DB::table('report_runs')->where('report_id', $id)->update(['done_at' => now()->utc()->startOfWeek()->addHours(7)]);
        }
    }

    private function audits(): void
    {
        foreach (self::rules() as $i => [$name, $kind, $where, $must, $severity]) {
            $this->k->do(KeepAudit::fromInput([
                'id' => $this->k->id("audit $i"), 'name' => $name, 'kind' => $kind, 'where' => self::rows($where),
                'must' => self::rows($must), 'severity' => $severity,
                'site' => str_contains($name, 'isles') ? $this->k->id('site Outer Isles') : '',
                'atEdit' => str_contains($name, 'MAC') ? 'warn' : 'off',
            ]));
        }
        AuditRun::all();
        $first = Audit::query()->where('failing', '>', 1)->orderBy('name')->first();
        $finding = $first === null ? null : DB::table('audit_findings')->where('audit_id', $first->id)->orderBy('id')->first();
        if ($first !== null && $finding !== null) {
            $until = now()->addMonths(2)->toDateString();
            $this->k->do(new WaiveFinding($first->id, (string) $finding->object_id, $until, 'goes with the quay in spring'));
            AuditRun::one($first->refresh());
        }
        $this->past();
    }

    /** @return list<array{string, string, list<string>, list<string>, string}> name, of each, whose, must be, severity */
    private static function rules(): array
    {
        return [
            ['Live subnets have gateway and VLAN', 'subnet', ['stage is live', 'family is 4'], ['gateway set', 'vlan set'], 'error'],
            ['Subnets have a site', 'subnet', [], ['site set'], 'warning'],
            ['Subnets at the isles are named', 'subnet', [], ['name set'], 'note'],
            ['Scopes are on two servers', 'scope', ['stage is live'], ['servers above 1'], 'error'],
            ['Scopes have room', 'scope', [], ['use below 90'], 'warning'],
            ['Zones are on two servers', 'zone', ['reverse is no'], ['servers above 1'], 'warning'],
            ['Zones on shore are signed', 'zone', ['view is shore', 'reverse is no'], ['policy set'], 'note'],
            ['Hosts with a MAC have a name', 'address', ['mac set', 'role is host'], ['name set'], 'note'],
            ['VLANs in use are on the switch', 'vlan', ['subnets above 0'], ['switch is yes'], 'warning'],
            ['Devices have a site', 'device', [], ['site set'], 'note'],
        ];
    }

    /**
     * @param  list<string>  $rows  "fact test value"
     * @return array<string, string>
     */
    private static function rows(array $rows): array
    {
        $map = [];
        foreach ($rows as $i => $row) {
            [$fact, $test, $value] = explode(' ', $row, 3) + ['', '', ''];
            $map += [($i + 1).'-fact' => $fact, ($i + 1).'-test' => $test, ($i + 1).'-value' => $value];
        }

        return $map;
    }

    /** Three weeks of nights, in which some of it was mended. */
    private function past(): void
    {
        mt_srand(21);
        foreach (Audit::query()->get() as $audit) {
            for ($day = 21, $more = mt_rand(0, 6); $day > 0; $day--) {
                $more = max(0, $more + mt_rand(-2, 1));
                DB::table('audit_days')->insertOrIgnore([
                    'audit_id' => $audit->id, 'day' => now()->subDays($day)->toDateString(), 'failing' => $audit->failing + $more,
                ]);
            }
            DB::table('audit_findings')->where('audit_id', $audit->id)->update(['since' => now()->subDays(mt_rand(1, 20))]);
        }
    }
}
