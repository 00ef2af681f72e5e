<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\Note;
use App\Acts\Engine\NoteVerdict;
use App\Domain\Name\NameGate;
use App\Domain\Name\Records;
use App\Models\Zone;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Zone\Fault;
use HarborPost\Core\Dns\Zone\ZoneFileReader;

/** Records are pasted as the lines of a zone file; every fault is named with its line and column, and then nothing is written. */
final readonly class PasteRecords extends Act
{
    use OnRecords;

    private const MOST = 5000;

    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(Kind::Text, 'Records', most: 20000000)]
        public string $text,
    ) {
    }

    public function title(): string
    {
        return 'Add pasted records';
    }

    public function landing(): string
    {
        return at('name.zone', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $zone = AddRecord::zone($ledger, $this->zone);
        $faults = [];
        $reader = new ZoneFileReader($zone->origin(), function (Fault $f) use (&$faults): void {
            $f->severity !== 'error' && $f->code !== 'time-with-units' ?: $faults[] = $f;
        });
        // A line without a TTL inherits: told apart by a TTL that no record may have.
        $lines = preg_split('/(?<=\n)/', "\$TTL 2147483646\n".str_replace("\r\n", "\n", $this->text), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        $records = [];
        foreach ($reader->read($lines) as $line => $record) {
            $records[$line] = $record;
            count($records) <= self::MOST
                ?: $ledger->refuse(
                    'too-many',
                    'More than '.self::MOST.' records at once',
                    'Take a file of that size in as an import.',
                    null,
                    'text',
                    at('import').'?kind=zone',
                );
        }
        foreach ($faults as $fault) {
            $where = 'Line '.($fault->line - 1).", column $fault->column: $fault->message";
            $fault->severity === 'error'
                ? $ledger->notes[] = new Note(NoteVerdict::Blocked, $fault->code, $where, '', $fault->standard, 'text')
                : $ledger->warn($fault->code, $where, '', $fault->standard, 'text');
        }
        $errors = array_values(array_filter($faults, fn (Fault $f): bool => $f->severity === 'error'));
        if ($errors !== []) {
            $ledger->refuse(
                'faults',
                count($errors) === 1 ? 'One line cannot be read' : count($errors).' lines cannot be read',
                'Nothing is written until all can.',
                null,
                'text',
            );
        }
        $records !== [] ?: $ledger->refuse('nothing-pasted', 'There is no record in what was pasted', field: 'text');
        foreach ($records as $line => $record) {
            if ($record->data instanceof Soa) {
                $ledger->warn(
                    'soa-passed-over',
                    'Line '.($line - 1).': the SOA is part of the zone and is passed over',
                    'Edit its timers in the zone settings.',
                    null,
                    'text',
                );

                continue;
            }
            $owner = Records::owner($ledger, $zone, (string) $record->owner);
            NameGate::check($ledger, $zone, $owner, $record->type()->number);
            Records::add($ledger, $zone, $owner, $record->ttl === 2147483646 ? null : $record->ttl, $record->data);
        }
    }
}
