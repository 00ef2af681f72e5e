<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Ship\LocalTime;
use App\Models\Freeze;
use App\Models\Person;
use App\Models\Server;
use App\Models\Site;
use Carbon\CarbonImmutable;

/** A time in which nothing is shipped is made or changed. */
final readonly class KeepFreeze extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Why', most: 200)]
        public string $why,
        #[Field(Kind::Line, 'From', most: 20, example: '2026-12-24 12:00')]
        public string $from,
        #[Field(Kind::Line, 'Up to', most: 20, example: '2026-12-27 06:00')]
        public string $to,
        #[Field(Kind::Line, 'Time zone', most: 60, example: 'Europe/London')]
        public string $zone = 'UTC',
        #[Field(Kind::Id, 'Server', of: Server::class)]
        public string $server = '',
        #[Field(Kind::Id, 'Site', 'With all sites in it; with neither it is for every server', of: Site::class)]
        public string $site = '',
        #[Field(Kind::NewId, 'Id', 'Of a new freeze, or of the one that changes')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return "Freeze: $this->why";
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
        if (trim($this->why) === '') {
            $ledger->refuse('no-reason', 'Say why nothing is shipped then', 'Whoever wants to ship reads it.', field: 'why');
        }
        if ($this->server !== '' && $this->site !== '') {
            $ledger->refuse('two-places', 'A freeze is for one server or for a site, not for both', field: 'site');
        }
        $from = LocalTime::read($ledger, $this->from, $this->zone, 'from');
        $to = LocalTime::read($ledger, $this->to, $this->zone, 'to');
        if ($to <= $from || $to <= $ledger->at) {
            $ledger->refuse('bad-freeze', $to <= $from ? 'It would end before it begins' : 'It would be over already', field: 'to');
        }
        $row = Freeze::query()->find($this->id) ?? new Freeze(['id' => $this->id]);
        $row->fill([
            'why' => trim($this->why), 'starts_at' => CarbonImmutable::instance($from)->utc(),
            'ends_at' => CarbonImmutable::instance($to)->utc(),
            'server_id' => $this->server === '' ? null : $this->server, 'site_id' => $this->site === '' ? null : $this->site,
        ])->save();
        $ledger->later('Nothing is shipped from '.$from->format('D j M H:i').' up to '.$to->format('D j M H:i').", $this->zone");
    }
}
