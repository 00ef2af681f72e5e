<?php

declare(strict_types=1);

namespace App\Actions\Name;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Zone;
use App\Queries\NameRights;
use App\Queries\Reach;

/** A record is written into a zone. */
final readonly class AddRecord extends Action
{
    use OnRecords;

    public function __construct(
        public string $zone,
        public string $type,
        /** presentation form; blank when the fields of the type are given */
        public string $data = '',
        public string $id = '',
        /** relative to the zone; blank or @ is its top */
        public string $name = '@',
        /** blank inherits */
        public string $ttl = '',
        /** @var list<string> values in the order of TypedFields; blank takes $data */
        public array $fields = [],
    ) {
    }

    public function title(): string
    {
        return "Add $this->type $this->name";
    }

    public function landing(): string
    {
        return "/name/zone/$this->zone";
    }

    public function apply(Ledger $ledger): void
    {
        $zone = self::zone($ledger, $this->zone);
        $owner = Records::owner($ledger, $zone, $this->name);
        $data = Records::data($ledger, $zone, $this->type, $this->data, $this->fields);
        NameRights::check($ledger, $zone, $owner, $data->type()->number);
        Records::add($ledger, $zone, $owner, Records::ttl($ledger, $this->ttl), $data, $this->id ?: null);
    }

    public static function zone(Ledger $ledger, string $id): Zone
    {
        return ($ledger->person === null ? Zone::query() : Reach::of($ledger->person)->zones())->find($id) ?? $ledger->refuse('not-available', 'This zone is not available to you', field: 'zone');
    }
}
