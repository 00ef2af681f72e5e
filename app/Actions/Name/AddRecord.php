<?php

declare(strict_types=1);

namespace App\Actions\Name;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Models\Zone;
use App\Queries\NameRights;
use App\Queries\Reach;

/** A record is written into a zone. */
final readonly class AddRecord extends Action
{
    use OnRecords;

    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(Kind::Line, 'Type', most: 20)]
        public string $type,
        #[Field(Kind::Text, 'Data', 'Presentation form; blank when the fields of the type are given', most: 70000)]
        public string $data = '',
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Name', 'Relative to the zone; blank or @ is its top', most: 1010)]
        public string $name = '@',
        #[Field(Kind::Line, 'TTL', 'Blank inherits', most: 30)]
        public string $ttl = '',
        /** @var list<string> values in the order of TypedFields; blank takes $data */
        #[Field(Kind::Texts, 'Fields', most: 70000)]
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
