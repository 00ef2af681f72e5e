<?php

declare(strict_types=1);

namespace App\Acts\Imports;

use App\Acts\Engine\Act;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\Refused;
use App\Acts\Name\AddRecord;
use App\Acts\Name\ChangeZone;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangeHost;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceMany;
use App\Database\Guard;
use App\Domain\Name\Records;
use App\Models\Import;
use App\Models\Person;
use App\Models\Record;
use App\Models\Role;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\LazyCollection;

/** All judged rows of an import become true, in one transaction; the refused ones stay out. */
final readonly class TakeOver extends Act
{
    /** Rows that are rehearsed, put in a draft or taken over while one waits; more are taken over by the worker. */
    public const MOST = 5000;

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
        return "/import/$this->import";
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
        if (! in_array($import->state, ['taking', 'judged'], true)) {
            $ledger->refuse('not-judged', 'The import is '.Import::STATES[$import->state]);
        }
        if ($import->state === 'judged' && $import->toWrite() > self::MOST) {
            $ledger->refuse(
                'too-many',
                'More than '.number_format(self::MOST).' rows are not taken over while one waits',
                'On its page it is taken over in the background; a file that is split can be agreed to part by part.',
            );
        }
        $import->kind === 'plan' ? $this->plan($ledger, $import) : $this->zone($ledger, $import);
        $import->state = 'taken';
        $import->message = '';
        $import->save();
    }

    private function plan(Ledger $ledger, Import $import): void
    {
        foreach ($this->rows($import, 'add') as [$line, $row]) {
            if ($row['is'] === 'prefix') {
                $this->at($ledger, $line, fn () => CarvePrefix::fromInput(['space' => $import->target_id] + $row['input'])->apply($ledger));
            }
        }
        foreach ($this->rows($import, 'change') as [$line, $row]) {
            $this->at(
                $ledger,
                $line,
                fn () => (
                    $row['is'] === 'prefix' ? ChangePrefix::fromInput($row['input']) : ChangeHost::fromInput($row['input'])
                )->apply($ledger),
            );
        }
        $batch = [];
        $subnets = [];
        foreach ($this->rows($import, 'add') as [$line, $row]) {
            if ($row['is'] !== 'host') {
                continue;
            }
            $key = $row['input']['subnet'];
            $subnets[$key] ??= $row['input']['prefix'] !== ''
                ? $row['input']['prefix']
                : (
                    \App\Queries\Ancestors::subnet($import->target_id, \HarborPost\Core\Net\Address::parse($row['input']['address']))->id
                        ?? $ledger->refuse('no-subnet', "line $line: no subnet holds {$row['input']['address']} any more")
                );
            $batch[] = ['prefix' => $subnets[$key]] + array_diff_key($row['input'], ['subnet' => 0, 'inZone' => 0]);
            if (count($batch) >= 1000) {
                (new PlaceMany($batch))->apply($ledger);
                $batch = [];
            }
        }
        $batch === [] || (new PlaceMany($batch))->apply($ledger);
    }

    private function zone(Ledger $ledger, Import $import): void
    {
        $zone = AddRecord::zone($ledger, $import->target_id);
        if ($this->removals) {
            foreach ($this->rows($import, 'cut') as [, $row]) {
                $record = Record::query()->find($row['record']);
                $record === null || Records::remove($record);
            }
        }
        foreach ($this->rows($import, 'change') as [$line, $row]) {
            if ($row['is'] === 'soa') {
                $this->at($ledger, $line, fn () => ChangeZone::fromInput(['zone' => $zone->id] + $row['input'])->apply($ledger));

                continue;
            }
            $record = Record::query()->find($row['record']);
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
        foreach ($this->rows($import, 'add') as [, $row]) {
            $data = RdataTypes::fromText(RecordType::of($row['type']), Fields::ofLine($row['data']));
            $batch[] = ['zone_id' => $zone->id, 'address_id' => null] + Record::columns(
                Name::parse($row['owner']),
                $row['ttl'] === $zone->default_ttl ? null : $row['ttl'],
                $data,
            );
            if (count($batch) >= 1000) {
                PlaceMany::records($ledger, $batch);
                $batch = [];
            }
        }
        PlaceMany::records($ledger, $batch);
    }

    /** @return LazyCollection<int, array{int, array<string, mixed>}> line and payload, in the order of the tree */
    private function rows(Import $import, string $verdict): LazyCollection
    {
        $query = DB::table('import_rows')->where('import_id', $import->id)->where('verdict', $verdict);
        $rows = $import->kind === 'plan'
            ? $query->orderByRaw('LENGTH(place) = 0')->orderBy('place')->orderBy('id')->lazy(2000)
            : $query->lazyById(2000);

        return $rows->map(fn (object $r): array => [(int) $r->line, (array) json_decode($r->result ?? $r->payload, true)]);
    }

    /** A refusal names the line of the file. */
    private function at(Ledger $ledger, int $line, \Closure $work): void
    {
        try {
            $work();
        } catch (Refused $e) {
            $ledger->refuse('line', "Line $line: {$e->note->message}", $e->note->why);
        } catch (BadInput $e) {
            $ledger->refuse('line', "Line $line: {$e->getMessage()}");
        }
    }
}
