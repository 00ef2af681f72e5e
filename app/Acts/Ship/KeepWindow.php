<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Server;
use App\Models\ShipWindow;
use App\Models\Site;
use HarborPost\Core\Shipping\Window;

/** A window in which servers are shipped to is made or changed. */
final readonly class KeepWindow extends Act
{
    /** @param  list<string>  $days */
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 80)]
        public string $name,
        #[Field(Kind::Line, 'Begins', most: 5, example: '22:00')]
        public string $starts,
        #[Field(Kind::Number, 'Minutes', most: Window::LONGEST, least: 1)]
        public int $minutes,
        #[Field(Kind::Texts, 'Days', 'Of the week, 1 for Monday')]
        public array $days = [],
        #[Field(Kind::Line, 'Time zone', most: 60, example: 'Europe/London')]
        public string $zone = 'UTC',
        #[Field(Kind::Id, 'Server', of: Server::class)]
        public string $server = '',
        #[Field(Kind::Id, 'Site', 'With all sites in it; with neither it is for every server', of: Site::class)]
        public string $site = '',
        #[Field(Kind::NewId, 'Id', 'Of a new window, or of the one that changes')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return (ShipWindow::query()->whereKey($this->id)->exists() ? 'Change' : 'Make')." the window $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('ship.times');
    }

    public function apply(Ledger $ledger): void
    {
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A window needs a name', field: 'name');
        }
        if ($this->server !== '' && $this->site !== '') {
            $ledger->refuse('two-places', 'A window is for one server or for a site, not for both', field: 'site');
        }
        $days = array_values(array_filter(array_map(static fn (string $d): int => ctype_digit($d) ? (int) $d : 0, $this->days)));
        try {
            $window = Window::of(count($days) === count($this->days) ? $days : [], $this->starts, $this->minutes, $this->zone);
        } catch (\InvalidArgumentException $e) {
            $ledger->refuse('bad-window', ucfirst($e->getMessage()));
        }
        $row = ShipWindow::query()->find($this->id) ?? new ShipWindow(['id' => $this->id]);
        $row->fill([
            'name' => trim($this->name), 'days' => implode(' ', $window->days), 'minutes' => $window->minutes, 'zone' => $this->zone,
            'starts' => sprintf('%02d:%02d', intdiv($window->starts, 60), $window->starts % 60),
            'server_id' => $this->server === '' ? null : $this->server, 'site_id' => $this->site === '' ? null : $this->site,
        ])->save();
        $next = $window->after($ledger->at)->from;
        $ledger->later('Opens next '.$next->format('D j M H:i').' '.$next->getTimezone()->getName());
    }
}
