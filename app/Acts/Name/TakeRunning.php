<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Models\Person;
use App\Models\Record;
use App\Models\Zone;
use App\Models\ZoneServer;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;

/** What clients changed on the primary by dynamic update becomes part of the plan, with the time of each renewal. */
final readonly class TakeRunning extends Act
{
    /**
     * @param  list<string>  $gone  lines "owner ttl type data" that the plan has and the server has not
     * @param  list<string>  $come  lines that the server has and the plan has not
     * @param  array<string, int>  $renewals  "owner type" → seconds since 1970
     */
    public function __construct(
        public string $zone,
        public string $server,
        public int $serial,
        public array $gone = [],
        public array $come = [],
        public array $renewals = [],
        public bool $whole = true,
    ) {
    }

    /** Names a difference on a page; the sign tells the side. */
    public static function lineKey(string $sign, string $line): string
    {
        return md5("$sign $line");
    }

    /**
     * The differences that were chosen. Where one is left the zone stays behind its server, and the next shipment settles it.
     *
     * @param  callable(string, string): bool  $chosen  of sign, + or −, and line
     */
    public function only(callable $chosen): self
    {
        $gone = array_values(array_filter($this->gone, static fn (string $l): bool => $chosen('−', $l)));
        $come = array_values(array_filter($this->come, static fn (string $l): bool => $chosen('+', $l)));
        $whole = count($gone) === count($this->gone) && count($come) === count($this->come);

        return new self($this->zone, $this->server, $this->serial, $gone, $come, $whole ? $this->renewals : [], $whole);
    }

    public function title(): string
    {
        return 'Take '
            .(count($this->gone) + count($this->come))
            .' changes of '
            .(\App\Models\Zone::query()->find($this->zone)?->title() ?? 'a zone')
            .' into the plan';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.zone.service', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $signed = Zone::query()->whereKey($this->zone)->whereNotNull('policy_id')->first();
        if ($signed !== null) {
            $ledger->refuse(
                'zone-is-signed',
                "{$signed->title()} is signed here: nothing is taken from a server into it",
                'What somebody changed there has no signature of ours. Ship the zone to undo it, and write here what is wanted.',
                'RFC 4035 §2.2',
                link: at('name.zone.signing', $signed->id),
            );
        }
        $zone = AddRecord::zone($ledger, $this->zone);
        foreach ($this->gone as $line) {
            [$owner, $ttl, $data] = $this->read($ledger, $line);
            $record = Record::query()->where('zone_id', $zone->id)->where('owner_key', $owner->sortKey())
                ->where('type', $data->type()->number)->where('data_hash', md5($data->canonical(), true))->first();
            if ($record?->address_id !== null) {
                $ledger->warn(
                    'belongs-to-host',
                    "{$record->line()} belongs to a placed host and stays",
                    'Ship the zone to put it back on the server.',
                );

                continue;
            }
            $record === null ?: Records::remove($record);
        }
        foreach ($this->come as $line) {
            [$owner, $ttl, $data] = $this->read($ledger, $line);
            $record = Records::add($ledger, $zone, $owner, $ttl === $zone->default_ttl ? null : $ttl, $data);
            $renewed = $this->renewals["{$owner->lower()} {$data->type()}"] ?? null;
            if ($renewed !== null) {
                $record->renewed_at = CarbonImmutable::createFromTimestamp($renewed);
                $record->save();
            }
        }
        foreach ($this->renewals as $set => $renewed) {
            [$owner, $type] = explode(' ', (string) $set, 2) + ['', ''];
            $name = Name::tryParse($owner);
            $name === null
                ?: Record::query()->where('zone_id', $zone->id)->where('owner_key', $name->sortKey())
                    ->where('type', RecordType::tryParse($type)->number ?? 0)->whereNull('address_id')
                    ->update(['renewed_at' => CarbonImmutable::createFromTimestamp((int) $renewed)]);
        }
        if (! $this->whole) {
            return;
        }
        // The server has this serial already, so nothing of it is to be shipped there; what waited before still does.
        $zone->serial = $this->serial;
        $zone->save();
        DB::table('record_changes')->whereIn('id', $ledger->journal)->update(['serial' => $this->serial]);
        ZoneServer::query()->where('zone_id', $zone->id)->where('server_id', $this->server)
            ->update(['shipped_serial' => $this->serial, 'verified_at' => $ledger->at]);
    }

    /** @return array{Name, int, \HarborPost\Core\Dns\Rdata\Rdata} */
    private function read(Ledger $ledger, string $line): array
    {
        [$owner, $ttl, $type, $data] = explode(' ', $line, 4) + ['', '0', '', ''];
        try {
            return [Name::parse($owner), (int) $ttl, RdataTypes::fromText(RecordType::parse($type), Fields::ofLine($data))];
        } catch (Malformed $e) {
            $ledger->refuse('bad-line', "\"$line\": {$e->getMessage()}", standard: $e->standard);
        }
    }
}
