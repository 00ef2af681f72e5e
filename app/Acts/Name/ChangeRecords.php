<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\RecordChange;
use App\Models\Record;
use App\Models\Zone;

/** Many records are changed at once: one TTL for all, a part of their data or of their names replaced. */
final readonly class ChangeRecords extends Act
{
    use OnRecords;

    /** @param  list<string>  $records */
    public function __construct(
        #[Field(Kind::Ids, 'Records', of: Record::class)]
        public array $records = [],
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone = '',
        #[Field(Kind::Line, 'All that match', 'A filter of the zone, instead of picked records', most: 500)]
        public string $matching = '',
        #[Field(Kind::Line, 'TTL', 'Blank leaves it; "inherit" takes the zone\'s; else seconds or with units', most: 30)]
        public string $ttl = '',
        #[Field(Kind::Line, 'Find', most: 1000)]
        public string $find = '',
        #[Field(Kind::Line, 'Replace with', most: 1000)]
        public string $replace = '',
        #[Field(Kind::Choice, 'In', 'Data or name: where $find is looked for', choices: ['data', 'name'])]
        public string $in = 'data',
    ) {
    }

    public function title(): string
    {
        return $this->matching === '' ? 'Change '.count($this->records).' records' : "Change all records that match \"$this->matching\"";
    }

    public function landing(): string
    {
        return at('name.zone', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $rows = self::chosen($ledger, $this->records, $this->zone, $this->matching);
        $ttl = match (strtolower(trim($this->ttl))) {
            '' => ChangeRecord::KEEP,
            'inherit' => '',
            default => trim($this->ttl),
        };
        $hits = 0;
        foreach ($rows as $record) {
            $data = $name = null;
            if ($this->find !== '') {
                $text = $this->in === 'name' ? rtrim(substr($record->owner, 0, -strlen($record->zone->name)), '.') ?: '@' : $record->data;
                $new = str_replace($this->find, $this->replace, $text);
                $hits += $new === $text ? 0 : 1;
                $this->in === 'name' ? $name = ($new === $text ? null : $new) : $data = ($new === $text ? null : $new);
            }
            (new RecordChange($record->id, $data, $ttl, $name))->write($ledger);
        }
        if ($this->find !== '') {
            $hits > 0
                ? $ledger->passed('replaced', "\"$this->find\" stands in $hits of ".$rows->count())
                : $ledger->refuse('not-found', "\"$this->find\" stands in none of the ".$rows->count().' records', '', null, 'find');
        }
    }
}
