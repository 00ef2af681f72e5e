<?php

declare(strict_types=1);

namespace App\Queries;

use App\Actions\Acts;
use App\Actions\Imports\JudgeRows;
use App\Actions\Imports\StageRows;
use App\Models\Import;
use App\Models\Record;
use App\Models\Zone;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\Zone\Fault;
use HarborPost\Core\Dns\Zone\ZoneFileReader;
use Illuminate\Support\Facades\DB;

/** Judges the records of a zone file against a zone: new, other TTL, the same, not in the file, refused. */
final class ZoneJudge
{
    private const CHUNK = 500;

    public function __construct(private readonly Acts $acts)
    {
    }

    /**
     * Rows in the order of the file, faults among them.
     *
     * @return \Generator<int, array{line: int, verdict: string, what: string, reason: string, payload: array<string, mixed>, match_key?: ?string}>
     */
    public static function rows(Zone $zone, string $path, int &$bytes): \Generator
    {
        $faults = [];
        $reader = new ZoneFileReader($zone->origin(), function (Fault $f) use (&$faults): void {
            if ($f->severity === 'error') {
                $faults[] = ['line' => $f->line, 'verdict' => 'refused', 'what' => trim("$f->owner $f->type") ?: "column $f->column", 'reason' => "column $f->column: $f->message ($f->standard)", 'payload' => []];
            }
        }, is_dir("$path.d") ? self::bundle("$path.d") : null);
        foreach ($reader->read(self::lines($path, $bytes)) as $line => $record) {
            yield from $faults;
            $faults = [];
            yield self::row($line, $record);
        }
        yield from $faults;
    }

    public function judge(Import $import): void
    {
        $zone = Zone::query()->findOrFail($import->target_id);
        $after = 0;
        do {
            $rows = DB::table('import_rows')->where('import_id', $import->id)->where('id', '>', $after)->where('verdict', '!=', 'refused')->where('verdict', '!=', 'cut')->orderBy('id')->limit(self::CHUNK)->get(['id', 'line', 'payload', 'match_key']);
            $verdicts = $this->chunk($import, $zone, $rows->all());
            $verdicts === [] || $this->acts->commit(null, [new JudgeRows($verdicts)]);
            $after = (int) ($rows->last()->id ?? 0);
        } while ($rows->count() === self::CHUNK);
        $this->missing($import, $zone);
    }

    /**
     * @param  array<int, \stdClass>  $rows
     * @return array<int, array{string, string, array<string, mixed>|null}>
     */
    private function chunk(Import $import, Zone $zone, array $rows): array
    {
        $payloads = array_map(fn (object $r): array => (array) json_decode($r->payload, true), $rows);
        $known = Record::query()->where('zone_id', $zone->id)->whereIn('owner', array_values(array_unique(array_column($payloads, 'owner'))))->get()->keyBy(fn (Record $r): string => bin2hex(self::key($r->owner_key, $r->type, $r->data_hash)));
        $verdicts = [];
        foreach ($rows as $i => $row) {
            $payload = $payloads[$i];
            if (($payload['is'] ?? '') === 'soa') {
                $verdicts[(int) $row->id] = $this->soa($zone, $payload['input'] ?? []);

                continue;
            }
            $twin = DB::table('import_rows')->where('import_id', $import->id)->where('match_key', $row->match_key)->where('id', '<', $row->id)->value('line');
            $record = $known[bin2hex((string) $row->match_key)] ?? null;
            $verdicts[(int) $row->id] = match (true) {
                $twin !== null => ['refused', "stands already on line $twin", null],
                $record === null => $this->alias($zone, $payload),
                ($record->ttl ?? $zone->default_ttl) !== $payload['ttl'] => ['change', 'TTL '.($record->ttl ?? $zone->default_ttl)." → {$payload['ttl']}", ['record' => $record->id] + $payload],
                default => ['same', '', null],
            };
        }

        return $verdicts;
    }

    /**
     * @param  array<string, mixed>  $payload
     * @return array{string, string, array<string, mixed>|null}
     */
    private function alias(Zone $zone, array $payload): array
    {
        $isAlias = $payload['type'] === 5;
        if ($isAlias && $payload['owner'] === $zone->name) {
            return ['refused', 'the top of a zone cannot be an alias (RFC 1034 §3.6.2)', null];
        }
        $other = Record::query()->where('zone_id', $zone->id)->where('owner', $payload['owner'])->when(! $isAlias, fn ($q) => $q->where('type', 5))->first();

        return $other === null ? ['add', '', null] : ['refused', "{$other->line()} stands at this name (RFC 1034 §3.6.2)", null];
    }

    /**
     * @param  array<string, string>  $input
     * @return array{string, string, array<string, mixed>|null}
     */
    private function soa(Zone $zone, array $input): array
    {
        $is = ['refresh' => (string) $zone->refresh, 'retry' => (string) $zone->retry, 'expire' => (string) $zone->expire, 'negativeTtl' => (string) $zone->negative_ttl];
        $changed = array_diff_assoc($input, $is);

        return $changed === [] ? ['same', 'the serial is raised by shipping', null] : ['change', 'changes '.implode(', ', array_keys($changed)).'; the serial is raised by shipping', null];
    }

    /** Records that the zone has and the file has not: listed apart, removed only when that is asked for. */
    private function missing(Import $import, Zone $zone): void
    {
        DB::table('import_rows')->where('import_id', $import->id)->where('verdict', 'cut')->delete();
        $rows = [];
        foreach (Record::query()->where('zone_id', $zone->id)->orderBy('id')->lazyById(1000) as $record) {
            $key = self::key($record->owner_key, $record->type, $record->data_hash);
            if ($record->address_id === null && DB::table('import_rows')->where('import_id', $import->id)->where('match_key', $key)->doesntExist()) {
                $rows[] = ['line' => 0, 'verdict' => 'cut', 'what' => $record->line(), 'reason' => 'not in the file', 'payload' => ['record' => $record->id]];
            }
        }
        $this->acts->commit(null, [new StageRows($import->id, $rows, $import->bytes, $import->fresh()->lines ?? 0)]);
    }

    /** @return array{line: int, verdict: string, what: string, reason: string, payload: array<string, mixed>, match_key: ?string} */
    private static function row(int $line, DnsRecord $record): array
    {
        $data = $record->data;
        if ($data instanceof Soa) {
            return ['line' => $line, 'verdict' => 'read', 'what' => 'SOA '.$data->text(), 'reason' => '', 'match_key' => null, 'payload' => ['is' => 'soa', 'input' => ['refresh' => (string) $data->refresh, 'retry' => (string) $data->retry, 'expire' => (string) $data->expire, 'negativeTtl' => (string) $data->negativeTtl]]];
        }
        $columns = Record::columns($record->owner, $record->ttl, $data);

        return [
            'line' => $line, 'verdict' => 'read', 'what' => "{$columns['owner']} $record->ttl {$record->type()} {$columns['data']}", 'reason' => '',
            'payload' => ['is' => 'record', 'owner' => $columns['owner'], 'type' => $columns['type'], 'ttl' => $record->ttl, 'data' => $columns['data']],
            'match_key' => self::key($columns['owner_key'], $columns['type'], $columns['data_hash']),
        ];
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
