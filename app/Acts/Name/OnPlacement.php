<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\ZoneApex;
use App\Models\Person;
use App\Models\Record;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Database\Eloquent\Builder;

/** An act on a zone that a server holds. */
abstract readonly class OnPlacement extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Server of the zone', of: ZoneServer::class)]
        public string $placement,
    ) {
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.zone.service', ZoneServer::query()->find($this->placement)->zone_id ?? '');
    }

    protected function found(): ?ZoneServer
    {
        return ZoneServer::query()->with(['server', 'zone.view'])->find($this->placement);
    }

    protected function placement(Ledger $ledger): ZoneServer
    {
        return $this->found() ?? $ledger->refuse('gone', 'The server does not hold the zone any more');
    }

    /** The name under which the server is listed. */
    protected static function nameOf(ZoneServer $placement): Name
    {
        return ZoneApex::nameOf($placement->server, $placement->zone->origin());
    }

    /** @return Builder<Record> the NS at the top of the zone */
    protected static function listed(ZoneServer $placement): Builder
    {
        return Record::query()->where('zone_id', $placement->zone_id)
            ->where('owner_key', $placement->zone->origin()->sortKey())->where('type', RecordType::NS);
    }
}
