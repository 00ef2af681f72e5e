<?php

declare(strict_types=1);

namespace App\Imports;

use App\Acts\Engine\Acts;
use App\Acts\Imports\JudgeRows;
use App\Acts\Imports\StageRows;
use App\Models\Import;
use App\Models\Record;
use App\Models\RowVerdict;
use App\Models\Zone;
use HarborPost\Core\Dns\Dnssec\ZoneSigner;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\Fault;
use HarborPost\Core\Dns\Zone\ZoneFileReader;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * Judges the records of a zone file against a zone: new, other TTL, the same, not in the file, refused.
 *
 * @phpstan-type Row array{line: int, verdict: RowVerdict, what: string, reason: string, payload: array<string, mixed>, match_key?: ?string,
 *     place?: string, result?: array<string, mixed>|null}
 */
final class ZoneJudge
{
    private const CHUNK = 500;

    public function __construct(private readonly Acts $acts)
    {
    }

    /**
     * Rows in the order of the file, faults among them.
     *
     * @return \Generator<int, Row>
     */
    public static function rows(Zone $zone, string $path, int &$bytes): \Generator
    {
        $faults = [];
        $reader = new ZoneFileReader($zone->origin(), function (Fault $f) use (&$faults): void {
            if ($f->severity === 'error') {
                $faults[] = [
                    'line' => $f->line, 'verdict' => RowVerdict::Refused, 'what' => trim("$f->owner $f->type") ?: 'not read',
                    'reason' => "column $f->column: $f->message ($f->standard)", 'payload' => [],
                ];
            }
        }, is_dir("$path.d") ? self::bundle("$path.d") : null);
        foreach ($reader->read(self::lines($path, $bytes)) as $line => $record) {
            yield from $faults;
            $faults = [];
            yield self::row($zone, $line, $record);
        }
        yield from $faults;
    }

    /**
     * Judges rows as they are read, against the zone and among each other. What another chunk says of the same name comes to light later,
     * in {@see judge()}.
     *
     * @param  list<Row>  $rows
     * @return list<Row>
     */
    public static function atOnce(Zone $zone, array $rows): array
    {
        $asked = [];
        foreach ($rows as $i => $row) {
            if ($row['verdict'] === RowVerdict::Read) {
                $asked[] = ['id' => $i, 'line' => $row['line'], 'match_key' => $row['match_key'] ?? '', 'payload' => $row['payload']];
            }
        }
        foreach (self::verdicts($zone, $asked) as $i => [$verdict, $reason, $result]) {
            $rows[$i] = ['verdict' => $verdict, 'reason' => $reason, 'result' => $result] + $rows[$i];
        }

        return $rows;
    }

    /**
     * All records at a name together, whichever line they stand on, so that a clash inside the file is seen in either order: those names
     * are judged again that have an alias and something else, or one record twice.
     */
    public function judge(Import $import): void
    {
        $zone = Zone::query()->findOrFail($import->target_id);
        $this->missing($import, $zone, clear: true);
        self::callBack($import);
        [$place, $after] = ['', 0];
        do {
            $rows = DB::table('import_rows')->where('import_id', $import->id)->where('verdict', RowVerdict::Read)->whereNotNull('place')
                ->where('place', '>=', $place)->where(fn ($q) => $q->where('place', '>', $place)->orWhere('id', '>', $after))
                ->orderBy('place')->orderBy('id')->limit(self::CHUNK)->get(['id', 'line', 'place', 'payload', 'match_key']);
            $more = $rows->count() === self::CHUNK;
            $rows = $this->wholeNames($import, $rows, $more);
            $asked = $rows->map(static fn (\stdClass $r): array => [
                'id' => (int) $r->id, 'line' => (int) $r->line, 'match_key' => (string) $r->match_key,
                'payload' => (array) json_decode($r->payload, true),
            ])->all();
            if (
                $rows->isEmpty()
                    || $this->acts->commit(null, [new JudgeRows(self::verdicts($zone, array_values($asked)), $import->id)])->blocked()
            ) {
                break;
            }
            [$place, $after] = [(string) $rows->last()->place, (int) $rows->last()->id];
        } while ($more);
        $this->missing($import, $zone, clear: false);
    }

    /** Rows whose verdict depends on rows of other chunks are as if they were just read. */
    private static function callBack(Import $import): void
    {
        $place = '1';
        do {
            // In the order of the key, so that a page begins where the last one ended, whatever the server knows of the table.
            $places = array_column(DB::select(
                "SELECT place FROM import_rows FORCE INDEX (import_rows_import_id_place_id_index)
                 WHERE import_id = ? AND place > ? GROUP BY place
                 HAVING COUNT(*) > 1 AND (SUM(what LIKE '% CNAME %') > 0 OR COUNT(DISTINCT match_key) < COUNT(*))
                 ORDER BY place LIMIT ".self::CHUNK,
                [$import->id, $place],
            ), 'place');
            DB::table('import_rows')->where('import_id', $import->id)->whereIn('place', $places)->update(['verdict' => RowVerdict::Read]);
            $place = (string) end($places);
        } while (count($places) === self::CHUNK);
    }

    /**
     * A chunk ends with the last record of a name: the rest of that name is read too.
     *
     * @param  Collection<int, \stdClass>  $rows
     * @return Collection<int, \stdClass>
     */
    private function wholeNames(Import $import, Collection $rows, bool $more): Collection
    {
        $last = $rows->last();

        return $last === null
            || ! $more
                ? $rows
                : $rows->concat(
                    DB::table('import_rows')->where('import_id', $import->id)->where('place', $last->place)
                        ->where('id', '>', $last->id)->orderBy('id')
                        ->get(['id', 'line', 'place', 'payload', 'match_key']),
                );
    }

    /**
     * @param  list<array{id: int, line: int, match_key: string, payload: array<string, mixed>}>  $rows  whole names
     * @return array<int, array{RowVerdict, string, array<string, mixed>|null}> by id
     */
    private static function verdicts(Zone $zone, array $rows): array
    {
        $verdicts = $names = $lines = [];
        foreach ($rows as $row) {
            $payload = $row['payload'];
            if ($payload['is'] === 'soa') {
                $verdicts[$row['id']] = self::soa($zone, $payload);

                continue;
            }
            $key = bin2hex($row['match_key']);
            if (isset($lines[$key])) {
                $verdicts[$row['id']] = [RowVerdict::Refused, "stands already on line $lines[$key]", null];

                continue;
            }
            $lines[$key] = $row['line'];
            /** @var array{id: int, line: int, owner: string, type: int, ttl: int, data: string} $one */
            $one = ['id' => $row['id'], 'line' => $row['line']] + $payload;
            $names[$one['owner']][$key] = $one;
        }
        $there = Record::query()->where('zone_id', $zone->id)
            ->whereIn('owner', array_map(strval(...), array_keys($names)))->get()->groupBy('owner');
        foreach ($names as $owner => $records) {
            $verdicts += self::name($zone, (string) $owner, $records, $there[$owner] ?? new Collection);
        }

        return $verdicts;
    }

    /**
     * The records of one name: those that are there are compared, the others added; an alias stands alone, in the file and in the zone.
     *
     * @param  array<string, array{id: int, line: int, owner: string, type: int, ttl: int, data: string}>  $records
     * @param  Collection<int, Record>  $there
     * @return array<int, array{RowVerdict, string, array<string, mixed>|null}>
     */
    private static function name(Zone $zone, string $owner, array $records, Collection $there): array
    {
        $known = $there->keyBy(fn (Record $r): string => bin2hex(self::key($r->owner_key, $r->type, $r->data_hash)));
        $aliases = array_filter($records, static fn (array $r): bool => $r['type'] === RecordType::CNAME);
        $clash = $aliases !== []
            && count($records) > 1
                ? 'an alias stands alone: lines '
                    .implode(', ', array_slice(array_column($records, 'line'), 0, 6))
                    .' are at the same name (RFC 1034 §3.6.2)'
                : null;
        $verdicts = [];
        foreach ($records as $key => $one) {
            $record = $known[$key] ?? null;
            $beside = $there->first(fn (Record $r): bool => $one['type'] === RecordType::CNAME || $r->type === RecordType::CNAME);
            $verdicts[$one['id']] = match (true) {
                $record !== null && ($record->ttl ?? $zone->default_ttl) !== $one['ttl'] => [
                    RowVerdict::Change,
                    'TTL '.($record->ttl ?? $zone->default_ttl)." → {$one['ttl']}",
                    ['is' => 'record', 'record' => $record->id, 'ttl' => $one['ttl']],
                ],
                $record !== null => [RowVerdict::Same, '', null],
                $clash !== null => [RowVerdict::Refused, $clash, null],
                $one['type'] === RecordType::CNAME && $owner === $zone->name => [
                    RowVerdict::Refused,
                    'the top of a zone cannot be an alias (RFC 1034 §3.6.2)',
                    null,
                ],
                $beside !== null => [RowVerdict::Refused, "{$beside->line()} stands at this name (RFC 1034 §3.6.2)", null],
                default => [RowVerdict::Add, '', null],
            };
        }

        return $verdicts;
    }

    /**
     * @param  array<string, mixed>  $payload
     * @return array{RowVerdict, string, array<string, mixed>|null}
     */
    private static function soa(Zone $zone, array $payload): array
    {
        $is = [
            'primary' => $zone->primary_server, 'mailbox' => $zone->mailbox, 'refresh' => (string) $zone->refresh,
            'retry' => (string) $zone->retry, 'expire' => (string) $zone->expire,
            'negativeTtl' => (string) $zone->negative_ttl,
        ];
        $changed = $said = [];
        foreach ((array) $payload['input'] as $key => $value) {
            if (isset($is[$key]) && $is[$key] !== $value) {
                $changed[$key] = $value;
                $said[] = "$key $is[$key] → $value";
            }
        }
        // Our SOA has the TTL of the zone: another one is named, not taken.
        $ttl = ($payload['ttl'] ?? $zone->default_ttl) === $zone->default_ttl
            ? ''
            : "; its TTL {$payload['ttl']} is not taken, here it is the default TTL of the zone, $zone->default_ttl";

        return $changed === []
            ? [RowVerdict::Same, "the serial is raised by shipping$ttl", null]
            : [RowVerdict::Change, implode('; ', $said)."; the serial is raised by shipping$ttl", ['is' => 'soa', 'input' => $changed]];
    }

    /** Records that the zone has and the file has not: listed apart, removed only when that is asked for. */
    private function missing(Import $import, Zone $zone, bool $clear): void
    {
        if ($clear) {
            DB::table('import_rows')->where('import_id', $import->id)->where('verdict', RowVerdict::Cut)->delete();

            return;
        }
        foreach (Record::query()->where('zone_id', $zone->id)->whereNull('address_id')->lazyById(1000)->chunk(1000) as $records) {
            $keys = $records->mapWithKeys(fn (Record $r): array => [bin2hex(self::key($r->owner_key, $r->type, $r->data_hash)) => $r]);
            $places = $records->map(static fn (Record $r): string => self::place($r->owner_key))->unique()->values()->all();
            $staged = DB::table('import_rows')->where('import_id', $import->id)->whereIn('place', $places)
                ->pluck('match_key')->map(fn ($k): string => bin2hex((string) $k))->flip();
            $rows = [];
            foreach ($keys as $key => $record) {
                if (! isset($staged[$key])) {
                    $rows[] = [
                        'line' => 0, 'verdict' => RowVerdict::Cut, 'what' => $record->line(), 'reason' => 'not in the file',
                        'payload' => ['record' => $record->id],
                    ];
                }
            }
            if ($rows !== []) {
                $this->acts->commit(null, [new StageRows($import->id, $rows, $import->bytes, $import->fresh()->lines ?? 0)]);
            }
        }
    }

    /**
     * @return array{line: int, verdict: RowVerdict, what: string, reason: string, payload: array<string, mixed>, match_key: ?string,
     *     place: string}
     */
    private static function row(Zone $zone, int $line, DnsRecord $record): array
    {
        $data = $record->data;
        if ($data instanceof Soa) {
            return [
                'line' => $line,
                'verdict' => RowVerdict::Read,
                'what' => 'SOA '.$data->text(),
                'reason' => '',
                'match_key' => null,
                'place' => '0',
                'payload' => [
                    'is' => 'soa',
                    'ttl' => $record->ttl,
                    'input' => [
                        'primary' => (string) $data->primary->lower(), 'mailbox' => (string) $data->mailbox->lower(),
                        'refresh' => (string) $data->refresh, 'retry' => (string) $data->retry, 'expire' => (string) $data->expire,
                        'negativeTtl' => (string) $data->negativeTtl,
                    ],
                ],
            ];
        }
        $kept = $zone->policy_id !== null && ZoneSigner::isMade($record->type()->number);
        if ($kept || $record->type()->isMadeBySigning()) {
            return [
                'line' => $line, 'verdict' => RowVerdict::Refused, 'what' => "{$record->owner->lower()} {$record->type()}",
                'reason' => 'made by signing, so it is left out: it follows from the records and keys that are kept here', 'payload' => [],
                'match_key' => null, 'place' => '0',
            ];
        }
        $columns = Record::columns($record->owner, $record->ttl, $data);

        return [
            'line' => $line, 'verdict' => RowVerdict::Read,
            'what' => "{$columns['owner']} $record->ttl {$record->type()} {$columns['data']}",
            'reason' => '',
            'payload' => [
                'is' => 'record', 'owner' => $columns['owner'], 'type' => $columns['type'], 'ttl' => $record->ttl,
                'data' => $columns['data'],
            ],
            'match_key' => self::key($columns['owner_key'], $columns['type'], $columns['data_hash']),
            'place' => self::place($columns['owner_key']),
        ];
    }

    /** One place a name: rows of the same name are found together. */
    private static function place(string $owner): string
    {
        return '1'.md5($owner, true);
    }

    private static function key(string $owner, int $type, string $hash): string
    {
        return md5("$owner\0$type\0$hash", true);
    }

    /**
     * Files that were uploaded with a zone file, by the names that they had.
     *
     * @return \Closure(string): (iterable<string>|null)
     */
    private static function bundle(string $directory): \Closure
    {
        return static function (string $name) use ($directory): ?iterable {
            // Kept under the hash of their name: what a file asks for never becomes a path.
            $path = $directory.'/'.hash('sha256', basename(str_replace('\\', '/', $name)));

            return is_file($path) ? (static function () use ($path): \Generator {
                $file = fopen($path, 'r');
                while ($file !== false && ($line = fgets($file)) !== false) {
                    yield $line;
                }
                $file === false || fclose($file);
            })() : null;
        };
    }

    /** @return \Generator<int, string> */
    private static function lines(string $path, int &$bytes): \Generator
    {
        $file = fopen($path, 'r') ?: throw new \DomainException('The file is gone.');
        while (($line = fgets($file)) !== false) {
            $bytes += strlen($line);
            yield $line;
        }
        fclose($file);
    }
}
