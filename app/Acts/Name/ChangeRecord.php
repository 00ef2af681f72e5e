<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Plan\ChangeHost;
use App\Domain\Name\NameGate;
use App\Domain\Name\Records;
use App\Models\Record;
use App\Queries\Reach;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\HoldsAddress;
use HarborPost\Core\Dns\Ttl;

/** A record gets other data or another TTL; the TTL holds for its whole set. Records of a placed host are edited through the host. */
final readonly class ChangeRecord extends Act
{
    use OnRecords;

    /** The TTL stays as it is: a blank one is a value of its own, "inherited". */
    public const KEEP = 'keep';

    public function __construct(
        #[Field(Kind::Id, 'Record', of: Record::class)]
        public string $record,
        #[Field(Kind::Text, 'Data', most: 70000)]
        public ?string $data = null,
        #[Field(Kind::Line, 'TTL', 'Seconds or with units; blank inherits the zone\'s', most: 30)]
        public string $ttl = self::KEEP,
        #[Field(Kind::Line, 'Name', most: 1010)]
        public ?string $name = null,
        /** @var list<string> values in the order of TypedFields; blank takes $data */
        #[Field(Kind::Texts, 'Fields', most: 70000)]
        public array $fields = [],
    ) {
    }

    /** @param  array<mixed>  $input  a blank TTL comes as null from forms and means "inherited"; one that is not sent stays */
    public static function fromInput(array $input): static
    {
        return parent::fromInput(
            array_key_exists('ttl', $input) ? ['ttl' => (string) (is_scalar($input['ttl']) ? $input['ttl'] : '')] + $input : $input,
        );
    }

    public function title(): string
    {
        return 'Change '.(Record::query()->find($this->record)?->line() ?? 'a record');
    }

    public function landing(): string
    {
        return '/name/zone/'.(Record::query()->find($this->record)->zone_id ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        $record = ($ledger->person === null ? Record::query() : Reach::of($ledger->person)->records())->find($this->record)
            ?? $ledger->refuse('gone', 'The record is not there any more, or not available to you');
        NameGate::check($ledger, $record->zone, Name::parse($record->owner), $record->type);
        $this->change($ledger, $record);
        foreach (Records::siblings($record) as $sibling) {
            $this->change($ledger, $sibling);
            $ledger->passed('shared', "Shared: the same in the view {$sibling->zone->view->name}");
        }
    }

    private function change(Ledger $ledger, Record $record): void
    {
        $zone = $record->zone;
        $ttl = $this->ttl === self::KEEP ? $record->ttl : Records::ttl($ledger, $this->ttl);
        $owner = $this->name === null ? null : Records::owner($ledger, $zone, $this->name);
        $owner === null ?: NameGate::check($ledger, $zone, $owner, $record->type);
        $data = $this->data === null
            && $this->fields === [] ? null : Records::data($ledger, $zone, $record->typeName(), (string) $this->data, $this->fields);
        $sameData = $data === null || md5($data->canonical(), true) === $record->data_hash;
        $sameOwner = $owner === null || $owner->sortKey() === $record->owner_key;
        if (! $sameData || ! $sameOwner) {
            if ($record->address_id !== null) {
                $this->throughHost(
                    $ledger,
                    $record,
                    $data instanceof HoldsAddress ? (string) $data->address() : null,
                    $sameOwner ? null : (string) $owner,
                );

                return;
            }
            $ledger->later('The old answer may linger '.Ttl::of($record->ttl ?? $zone->default_ttl)->spoken().', its TTL');
            if (! $sameOwner) {
                Records::warnDangling($ledger, $record);
            }
            $before = $record->toRecord($zone->default_ttl);
            Records::change($ledger, $record, $owner ?? $before->owner, $ttl, $data ?? $before->data);

            return;
        }
        Records::level(
            $zone,
            Record::query()->where('zone_id', $zone->id)->where('owner_key', $record->owner_key)
                ->where('type', $record->type)->get()->all(),
            $record->type,
            $ttl,
        );
        $ledger->passed('one-ttl', 'One TTL in the record set', 'RFC 2181 §5.2');
    }

    private function throughHost(Ledger $ledger, Record $record, ?string $address, ?string $name): void
    {
        if ($address === null && $name === null) {
            $ledger->refuse(
                'belongs-to-host',
                'This record belongs to a placed host',
                'Change the host, and the name follows both ways.',
                null,
                'data',
            );
        }
        $change = new ChangeHost((string) $record->address_id, $address, $name);
        $change->apply($ledger);
    }
}
