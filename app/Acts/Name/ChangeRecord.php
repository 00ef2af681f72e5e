<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\RecordChange;
use App\Domain\Name\Records;
use App\Models\Record;

/** A record gets other data or another TTL; the TTL holds for its whole set. Records of a placed host are edited through the host. */
final readonly class ChangeRecord extends Act
{
    use OnRecords;

    /** The TTL stays as it is: a blank one is a value of its own, "inherited". */
    public const KEEP = RecordChange::KEEP;

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
        return at('name.zone', Record::query()->find($this->record)->zone_id ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        (new RecordChange($this->record, $this->data, $this->ttl, $this->name, $this->fields))->write($ledger);
    }
}
