<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\NameGate;
use App\Domain\Name\Records;
use App\Models\Zone;
use App\Queries\Reach;
use App\Queries\Zones;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\RecordType;

/** A record is written into a zone. */
final readonly class AddRecord extends Act
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
        #[Field(Kind::Flag, 'PTR', 'Writes the PTR of an A or AAAA too')]
        public bool $ptr = false,
    ) {
    }

    public function title(): string
    {
        return "Add $this->type $this->name";
    }

    public function landing(): string
    {
        return at('name.zone', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $zone = self::zone($ledger, $this->zone);
        $owner = Records::owner($ledger, $zone, $this->name);
        $data = Records::data($ledger, $zone, $this->type, $this->data, $this->fields);
        NameGate::check($ledger, $zone, $owner, $data->type()->number);
        $ttl = Records::ttl($ledger, $this->ttl);
        Records::add($ledger, $zone, $owner, $ttl, $data, $this->id ?: null);
        $address = $data instanceof A || $data instanceof Aaaa ? $data->address : null;
        if ($address !== null && $this->ptr) {
            $reverse = Zones::pointer($address, $zone->view_id);
            $reverse === null ?: NameGate::check($ledger, $reverse[0], $reverse[1], RecordType::PTR);
            Records::pointBack($ledger, $address, $owner, $ttl, $zone->view_id, null);
        } elseif ($address !== null && ! $owner->isWildcard()) {
            $ledger->later("No PTR of $address is written with it");
        }
    }

    public static function zone(Ledger $ledger, string $id): Zone
    {
        return ($ledger->person === null ? Zone::query() : Reach::of($ledger->person)->zones())->find($id)
            ?? $ledger->refuse('not-available', 'This zone is not available to you', field: 'zone');
    }
}
