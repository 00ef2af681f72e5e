<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Models\Person;
use App\Models\Report;
use App\Models\Server;
use App\Queries\Bridge;
use App\Queries\Reach;
use Illuminate\Support\Facades\DB;

/** Somebody puts the panels of their bridge in an order of their own, or back into the given one; or keeps a report or a chart there. */
final readonly class SetPanels extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Line, 'Order', 'Keys of panels, apart by blanks; blank for the given order', most: 200, blank: true)]
        public ?string $order = null,
        #[Field(Kind::Id, 'Report', of: Report::class, dash: true)]
        public ?string $report = null,
        #[Field(Kind::Id, 'Server of the chart', of: Server::class, dash: true)]
        public ?string $server = null,
        #[Field(Kind::Line, 'Figure of the chart', most: 120)]
        public string $figure = '',
        #[Field(Kind::Line, 'Take away', 'Key of a panel', most: 20)]
        public string $hide = '',
        #[Field(Kind::Line, 'Put back', 'Key of a panel', most: 20)]
        public string $show = '',
    ) {
    }

    public function title(): string
    {
        return 'Arrange the bridge';
    }

    public function landing(): string
    {
        return at('bridge');
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        if ($this->order !== null) {
            if (preg_match('/\A[a-z ]*\z/', $this->order) !== 1) {
                $ledger->refuse('no-such-panel', 'Panels have keys of small letters', field: 'order');
            }
            DB::table('people')->where('id', $person->id)->update(['panels' => $this->order === '' ? null : $this->order]);
        }
        $kept = $before = Person::query()->lockForUpdate()->findOrFail($person->id)->bridge ?? [];
        if ($this->report !== null) {
            $kept['report'] = $this->report === '-' ? null : $this->report($ledger, $person);
        }
        if ($this->server !== null) {
            $kept['chart'] = $this->server === '-' ? null : $this->chart($ledger, $person);
        }
        foreach (array_filter([$this->hide, $this->show]) as $panel) {
            if (! isset(Bridge::PANELS[$panel])) {
                $ledger->refuse('no-such-panel', 'Panels have keys of small letters', field: 'hide');
            }
            $away = array_values(array_diff($kept['away'] ?? [], [$panel]));
            $kept['away'] = $panel === $this->hide ? [...$away, $panel] : $away;
        }
        if ($kept !== $before) {
            DB::table('people')->where('id', $person->id)->update(['bridge' => json_encode($kept, JSON_THROW_ON_ERROR)]);
        }
    }

    private function report(Ledger $ledger, Person $person): string
    {
        $report = Report::openTo($person)->find($this->report)
            ?? $ledger->refuse('gone', 'The report is not there any more', field: 'report');

        return $report->id;
    }

    /** @return array{string, string} */
    private function chart(Ledger $ledger, Person $person): array
    {
        if (! Reach::of($person)->isWhole()) {
            $ledger->refuse('not-available', 'Figures of servers are not open to you', 'They tell of the whole network.', field: 'server');
        }
        if (DB::table('series')->where('server_id', $this->server)->where('family', $this->figure)->doesntExist()) {
            $ledger->refuse('no-figure', 'That server has no such figure', field: 'figure');
        }

        return [(string) $this->server, $this->figure];
    }
}
