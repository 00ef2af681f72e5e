<?php

declare(strict_types=1);

namespace App\Acts\Imports;

use App\Acts\Engine\Act;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfParts;
use App\Acts\Name\AddRecord;
use App\Acts\Name\ChangeZone;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangeHost;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceMany;
use App\Database\Guard;
use App\Domain\Name\Records;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Person;
use App\Models\Record;
use App\Models\Role;
use App\Models\RowVerdict;
use App\Queries\Ancestors;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\LazyCollection;

/** All judged rows of an import become true, in one transaction; the refused ones stay out. */
final readonly class TakeOver extends Act implements OfParts
{
    /** Rows that are rehearsed, put in a draft or taken over while one waits; more are taken over by the worker. */
    public const MOST = 5000;

    /** Rows that go to the database in one piece. */
    private const BATCH = 1000;

    public function __construct(
        #[Field(Kind::Id, 'Import', of: Import::class)]
        public string $import,
        #[Field(Kind::Flag, 'Remove the rest', 'Also remove records of the zone that the file does not have')]
        public bool $removals = false,
    ) {
    }

    public function title(): string
    {
        return 'Take over '.(Import::query()->find($this->import)->file_name ?? 'an import');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('import.one', $this->import);
    }

    public static function governed(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("import:$this->import");
        $import = Import::query()->find($this->import) ?? $ledger->refuse('gone', 'The import is not there any more');
        if ($import->kind === 'plan' && $ledger->person?->does(Role::Planner) === false) {
            $ledger->refuse('not-allowed', 'Not available to you', 'Planners take plans in.');
        }
        if (! $import->state->leadsTo(ImportState::Taken)) {
            $ledger->refuse('not-judged', 'The import is '.$import->state->words());
        }
        if ($import->state === ImportState::Judged && $import->toWrite() > self::MOST) {
            $ledger->refuse(
                'too-many',
                'More than '.number_format(self::MOST).' rows are not taken over while one waits',
                'On its page it is taken over in the background; a file that is split can be agreed to part by part.',
            );
        }
        $import->state = ImportState::Taken;
        $import->message = '';
        $import->save();
    }

    public function parts(Ledger $ledger): iterable
    {
        $import = Import::query()->findOrFail($this->import);

        return $import->kind === 'plan' ? $this->plan($ledger, $import) : $this->zone($ledger, $import);
    }

    /** @return iterable<string, Act> prefixes from the outer to the inner, then what changes, then hosts, many at a time */
    private function plan(Ledger $ledger, Import $import): iterable
    {
        foreach ($this->rows($import, RowVerdict::Add) as [$line, $row]) {
            if ($row['is'] === 'prefix') {
                yield "Line $line" => self::read($ledger, $line, CarvePrefix::class, ['space' => $import->target_id] + $row['input']);
            }
        }
        foreach ($this->rows($import, RowVerdict::Change) as [$line, $row]) {
            $act = $row['is'] === 'prefix' ? ChangePrefix::class : ChangeHost::class;
            yield "Line $line" => self::read($ledger, $line, $act, $row['input']);
        }
        $batch = [];
        $subnets = [];
        foreach ($this->rows($import, RowVerdict::Add) as [$line, $row]) {
            if ($row['is'] !== 'host') {
                continue;
            }
            $key = $row['input']['subnet'];
            $subnets[$key] ??= $row['input']['prefix'] !== ''
                ? $row['input']['prefix']
                : (
                    Ancestors::subnet($import->target_id, Address::parse($row['input']['address']))->id
                        ?? $ledger->refuse('no-subnet', "line $line: no subnet holds {$row['input']['address']} any more")
                );
            /** @var array{prefix: string, address: string} $host */
            $host = ['prefix' => $subnets[$key]] + array_diff_key($row['input'], ['subnet' => 0, 'inZone' => 0]);
            $batch[] = $host;
            if (count($batch) >= self::BATCH) {
                yield '' => new PlaceMany($batch);
                $batch = [];
            }
        }
        if ($batch !== []) {
            yield '' => new PlaceMany($batch);
        }
    }

    /** @return iterable<string, Act> the terms of the zone; its records are rows without acts of their own */
    private function zone(Ledger $ledger, Import $import): iterable
    {
        $zone = AddRecord::zone($ledger, $import->target_id);
        if ($this->removals) {
            foreach ($this->rows($import, RowVerdict::Cut) as [, $row]) {
                $record = Record::query()->find((string) $row['record']);
                $record === null || Records::remove($record);
            }
        }
        foreach ($this->rows($import, RowVerdict::Change) as [$line, $row]) {
            if ($row['is'] === 'soa') {
                yield "Line $line" => self::read($ledger, $line, ChangeZone::class, ['zone' => $zone->id] + $row['input']);

                continue;
            }
            $record = Record::query()->find((string) $row['record']);
            if ($record !== null) {
                Records::level(
                    $zone,
                    Record::query()->where('zone_id', $zone->id)->where('owner_key', $record->owner_key)
                        ->where('type', $record->type)->get()->all(),
                    $record->type,
                    $row['ttl'],
                );
            }
        }
        $batch = [];
        foreach ($this->rows($import, RowVerdict::Add) as [, $row]) {
            $data = RdataTypes::fromText(RecordType::of($row['type']), Fields::ofLine($row['data']));
            $batch[] = ['zone_id' => $zone->id, 'address_id' => null] + Record::columns(
                Name::parse($row['owner']),
                $row['ttl'] === $zone->default_ttl ? null : $row['ttl'],
                $data,
            );
            if (count($batch) >= self::BATCH) {
                PlaceMany::records($ledger, $batch);
                $batch = [];
            }
        }
        PlaceMany::records($ledger, $batch);
    }

    /** @return LazyCollection<int, array{int, array<string, mixed>}> line and payload, in the order of the tree */
    private function rows(Import $import, RowVerdict $verdict): LazyCollection
    {
        $query = DB::table('import_rows')->where('import_id', $import->id)->where('verdict', $verdict);
        $rows = $import->kind === 'plan'
            ? $query->orderByRaw('LENGTH(place) = 0')->orderBy('place')->orderBy('id')->lazy(2000)
            : $query->lazyById(2000);

        return $rows->map(static function (object $r): array {
            /** @var array<string, mixed> $said */
            $said = (array) json_decode($r->result ?? $r->payload, true);

            return [(int) $r->line, $said];
        });
    }

    /**
     * @param  class-string<Act>  $act
     * @param  array<string, mixed>  $input
     */
    private static function read(Ledger $ledger, int $line, string $act, array $input): Act
    {
        try {
            return $act::fromInput($input);
        } catch (BadInput $e) {
            $ledger->refuse('line', "Line $line: {$e->getMessage()}");
        }
    }
}
