<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Domain\Watch\Choices;
use App\Models\FactKind;
use App\Models\Person;
use App\Models\Report;
use App\Models\Site;
use App\Queries\Facts\Catalogue;
use App\Queries\Facts\Condition;
use App\Queries\Reach;
use App\Queries\ReportTable;
use HarborPost\Core\Watch\Every;

/** A report is written or changed; a schedule is on from the start. */
final readonly class KeepReport extends Act
{
    use OfOneself;

    /**
     * @param  array<string, string>  $where
     * @param  list<string>  $columns
     * @param  list<string>  $people
     */
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::Choice, 'List', choices: ['subnet', 'address', 'zone', 'scope', 'vlan', 'server', 'device', 'change', 'person'])]
        public string $kind,
        #[Field(Kind::NewId, 'Id', 'Of a new report, or of the one that changes')]
        public string $id = '',
        #[Field(Kind::Id, 'Site', 'With all sites in it', of: Site::class)]
        public string $site = '',
        #[Field(Kind::Map, 'Where', most: 120)]
        public array $where = [],
        #[Field(Kind::Line, 'Order', 'A fact, with a minus before it for the largest first', most: 40)]
        public string $sort = '',
        #[Field(Kind::Line, 'Together by', most: 20)]
        public string $by = '',
        #[Field(Kind::Texts, 'Columns')]
        public array $columns = [],
        #[Field(Kind::Choice, 'Again', choices: ['', 'day', 'week', 'month'])]
        public string $every = '',
        #[Field(Kind::Number, 'Day', 'Of the week from 1 for Monday, or of the month', most: 31, least: 1)]
        public int $day = 1,
        #[Field(Kind::Line, 'Time', most: 5, example: '07:00')]
        public string $time = '07:00',
        #[Field(Kind::Line, 'Time zone', most: 60, example: 'Europe/London')]
        public string $zone = 'UTC',
        #[Field(Kind::Ids, 'To', of: Person::class)]
        public array $people = [],
        #[Field(Kind::Flag, 'Paused')]
        public bool $paused = false,
    ) {
    }

    public function title(): string
    {
        return (Report::query()->whereKey($this->id)->exists() ? 'Change' : 'Write')." the report $this->name";
    }

    public function landing(): string
    {
        return at('watch.report', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        $report = Report::query()->lockForUpdate()->find($this->id) ?? new Report(['id' => $this->id, 'author_id' => $ledger->personId()]);
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A report needs a name', field: 'name');
        }
        $kind = Choices::kind($ledger, $this->kind);
        if ($this->site !== '' && ! $kind->hasSite()) {
            $ledger->refuse('no-site', ucfirst($kind->plural()).' stand at no site', 'Leave the site open.', field: 'site');
        }
        $columns = array_values(array_filter($this->columns, static fn (string $c): bool => isset(Catalogue::of($kind)[$c])));
        $report->fill([
            'name' => trim($this->name), 'kind' => $kind, 'site_id' => $this->site === '' ? null : $this->site,
            'conditions' => array_map(
                static fn (Condition $c): array => $c->stored(),
                Choices::read($ledger, $kind, $this->where, 'where'),
            ),
            'columns' => $columns === [] ? array_slice(array_keys(Catalogue::of($kind)), 0, 6) : $columns,
            'sort' => isset(Catalogue::of($kind)[ltrim($this->sort, '-')]) ? $this->sort : '',
            'by' => isset(Catalogue::of($kind)[$this->by]) ? $this->by : '', 'paused' => $this->paused,
        ]);
        $this->schedule($ledger, $report);
        $this->trial($ledger, $report, $kind);
        $report->save();
    }

    private function schedule(Ledger $ledger, Report $report): void
    {
        $report->fill(
            [
                'every' => Every::tryFrom($this->every),
                'day' => $this->every === 'day' ? 1 : $this->day,
                'time' => $this->time,
                'zone' => $this->zone,
            ],
        );
        $people = array_values(array_unique($this->people));
        $me = $ledger->person;
        if ($me !== null && $me->isBound() && array_diff($people, [$me->id]) !== []) {
            $ledger->refuse(
                'not-your-people',
                'You may send it to yourself',
                'Others are told by those who are bound to no tenant.',
                field: 'people',
            );
        }
        $report->people = $people === [] && $report->every !== null && $me !== null ? [$me->id] : $people;
        if ($report->every === null) {
            $report->due_at = null;

            return;
        }
        try {
            $table = $report->timetable();
        } catch (\InvalidArgumentException $e) {
            $field = str_contains($e->getMessage(), 'zone') ? 'zone' : (str_contains($e->getMessage(), 'time') ? 'time' : 'day');
            $ledger->refuse('bad-timetable', ucfirst($e->getMessage()), field: $field);
        }
        $runs = $table?->next($ledger->at, 3) ?? [];
        $report->due_at = $this->paused || $runs === [] ? null : \Carbon\CarbonImmutable::instance($runs[0])->utc();
        foreach ($this->paused ? [] : $runs as $run) {
            $ledger->later('It runs '.$run->format('D j M Y, H:i T'));
        }
        $names = Person::query()->whereIn('id', $report->people)->orderBy('name')->pluck('name')->implode(', ');
        $ledger->passed('recipients', "Each gets what they may see: $names");
    }

    private function trial(Ledger $ledger, Report $report, FactKind $kind): void
    {
        $table = ReportTable::of($report, $ledger->person === null ? Reach::whole() : Reach::of($ledger->person));
        $count = $table->count();
        $ledger->passed(
            'rows',
            $count === 1 ? "1 {$kind->singular()} is in it now" : number_format($count)." {$kind->plural()} are in it now",
        );
        if ($count === 0) {
            $ledger->warn('empty', 'Nothing is in it now', 'It is sent all the same, and says so.', field: 'where');
        }
    }
}
