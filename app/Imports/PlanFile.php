<?php

declare(strict_types=1);

namespace App\Imports;

use App\Acts\Engine\Act;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Inputs;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\PlaceHost;
use App\Domain\Plan\PlanColumns;
use App\Models\Device;
use App\Models\Host;
use App\Models\OwnField;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Record;
use App\Models\RowVerdict;
use App\Models\Site;
use App\Models\Space;
use App\Models\Tenant;
use App\Models\Zone;
use HarborPost\Core\Bytes\Csv;
use HarborPost\Core\Checks\HostName;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;

/**
 * The table of an address plan, both ways. The first line names the columns, in any order; a row with an address is a host. A column that
 * is not there, and a cell that is blank, says nothing. Own fields are columns "own:NAME"; the zone of a host is its name, with "/view"
 * where several views have it, and "-" for no name in DNS.
 */
final class PlanFile
{
    /** column of the file → input of the act */
    private const PREFIX_INPUTS = [
        'kind' => 'kind', 'stage' => 'stage', 'name' => 'name', 'description' => 'description', 'role' => 'role', 'tags' => 'tags',
        'origin' => 'origin', 'origin_on' => 'originOn', 'origin_handle' => 'originHandle', 'gateway' => 'gateway',
    ];

    private const HOST_INPUTS = [
        'description' => 'description', 'role' => 'role', 'owner' => 'owner', 'interface' => 'interface', 'mac' => 'mac',
    ];

    /** Stands in where an act asks for an id that is known only when the row is judged. */
    private const LATER = '00000000000000000000000000';

    /** @var array<string, string> lower-case name → id */
    private array $sites;

    /** @var array<string, string> lower-case name → id */
    private array $tenants;

    /** @var array<string, string> lower-case name → id */
    private array $devices;

    /** @var array<string, string> lower-case name → id */
    private array $own;

    /** @var array<string, ?string> as written → id */
    private array $zones = [];

    public function __construct()
    {
        $this->sites = self::byName(Site::class);
        $this->tenants = self::byName(Tenant::class);
        $this->devices = self::byName(Device::class);
        $this->own = self::byName(OwnField::class);
    }

    /**
     * One row: what it is, where it stands in the tree, or why it is refused.
     *
     * @param  array<string, string>  $row  column → text
     * @return array{line: int, verdict: RowVerdict, what: string, reason: string, payload: array<string, mixed>, place: ?string}
     */
    public function read(int $line, array $row): array
    {
        $row = array_map(Csv::plain(...), $row);
        $text = ($row['address'] ?? '') !== '' ? $row['address'] : ($row['prefix'] ?? '');
        try {
            return ($row['address'] ?? '') !== '' ? $this->host($line, $row) : $this->prefix($line, $row);
        } catch (NotUnderstood $e) {
            return self::refused($line, $text, $e->getMessage().($e->suggestion === null ? '' : "; write $e->suggestion"));
        } catch (BadInput|\DomainException $e) {
            return self::refused($line, $text, $e->getMessage());
        }
    }

    /** @return array{line: int, verdict: RowVerdict, what: string, reason: string, payload: array<string, mixed>, place: null} */
    public static function refused(int $line, string $what, string $reason): array
    {
        return [
            'line' => $line, 'verdict' => RowVerdict::Refused, 'what' => mb_strimwidth($what, 0, 200, '…'), 'reason' => $reason,
            'payload' => [],
            'place' => null,
        ];
    }

    /** @return \Generator<int, list<string>> the rows of a space, the header first */
    public static function write(Space $space): \Generator
    {
        $own = OwnField::query()->orderBy('name')->pluck('name', 'id')->all();
        yield [...PlanColumns::ALL, ...array_map(static fn (string $n): string => "own:$n", array_values($own))];
        $tenants = Tenant::query()->pluck('name', 'id');
        $prefixes = Prefix::query()->with(['site', 'vlan'])->where('space_id', $space->id)->orderBy('family')
            ->orderBy('first')->orderBy('length')->orderByDesc('groups');
        foreach ($prefixes->lazy(1000) as $p) {
            yield [
                (string) $p->prefix(), $p->kind->value, $p->stage->value, $p->name, $p->site->name ?? '', (string) ($p->vlan->number ?? ''),
                (string) $p->gateway, $p->description, '', '', $p->role,
                (string) ($tenants[$p->tenant_id ?? ''] ?? ''), implode(', ', $p->tags ?? []), $p->origin,
                (string) $p->origin_on?->format('Y-m-d'), $p->origin_handle, '', '', '', '',
                ...array_map(static fn (string $id): string => $p->own[$id] ?? '', array_keys($own)),
            ];
        }
        $blank = array_fill(0, count($own), '');
        foreach (
            Host::query()->with('device')->where('space_id', $space->id)->orderBy('family')->orderBy('address')
                ->lazy(2000)->chunk(500) as $hosts
        ) {
            $zones = Record::query()->with('zone.view')->whereIn('address_id', $hosts->pluck('id'))
                ->whereIn('type', [RecordType::A, RecordType::AAAA])->get()->keyBy('address_id');
            foreach ($hosts as $h) {
                $zone = $zones[$h->id]->zone ?? null;
                yield [
                    '', '', '', $h->name, '', '', '', $h->description, (string) $h->address, (string) $h->mac, $h->role, '', '', '', '',
                    '', $h->owner, $h->interface, $h->device->name ?? '',
                    $zone === null ? '-' : "{$zone->title()}/{$zone->view->name}", ...$blank,
                ];
            }
        }
    }

    /**
     * @param  array<string, string>  $row
     * @return array{line: int, verdict: RowVerdict, what: string, reason: string, payload: array<string, mixed>, place: string}
     */
    private function prefix(int $line, array $row): array
    {
        $net = Net::parse($row['prefix'] ?? '');
        $input = ['prefix' => (string) $net];
        foreach (self::PREFIX_INPUTS as $column => $key) {
            $value = $row[$column] ?? '';
            if ($value !== '') {
                $input[$key] = in_array($column, ['kind', 'stage'], true) ? strtolower($value) : $value;
            }
        }
        if (isset($input['gateway'])) {
            $gateway = Address::parse($input['gateway']);
            $input['gateway'] = $net->usable()->contains($gateway)
                ? (string) $gateway
                : throw new \DomainException("gateway $gateway is not a usable address of $net");
        }
        $input += array_filter([
            'site' => $this->named($this->sites, 'site', $row['site'] ?? ''),
            'tenant' => $this->named($this->tenants, 'tenant', $row['tenant'] ?? ''),
            'vlan' => self::vlan($row['vlan'] ?? ''),
        ]);
        $own = $this->ownValues($row);
        if ($own !== []) {
            $input['own'] = $own;
        }
        self::fits(CarvePrefix::class, ['space' => self::LATER] + array_diff_key($input, ['vlan' => '']));
        if (
            isset($input['originOn'])
                && (
                    preg_match('/\A(\d{4})-(\d\d)-(\d\d)\z/', $input['originOn'], $d) !== 1
                        || ! checkdate((int) $d[2], (int) $d[3], (int) $d[1])
                )
        ) {
            throw new \DomainException("origin_on \"{$input['originOn']}\": a date as 2026-03-31 was expected");
        }
        $kind = $input['kind'] ?? '';

        return [
            'line' => $line, 'verdict' => RowVerdict::Read, 'what' => trim("$net $kind ".($input['name'] ?? '')), 'reason' => '',
            'payload' => ['is' => 'prefix', 'input' => $input],
            'place' => self::place($net, $kind === PrefixKind::Supernet->value ? 0 : 1),
        ];
    }

    /**
     * @param  array<string, string>  $row
     * @return array{line: int, verdict: RowVerdict, what: string, reason: string, payload: array<string, mixed>, place: string}
     */
    private function host(int $line, array $row): array
    {
        $address = Address::parse($row['address']);
        $input = ['address' => (string) $address];
        foreach (self::HOST_INPUTS as $column => $key) {
            $value = $row[$column] ?? '';
            if ($value !== '') {
                $input[$key] = $column === 'role' ? strtolower($value) : $value;
            }
        }
        if (isset($input['mac'])) {
            $mac = MacAddress::parse($input['mac']);
            $input['mac'] = (string) $mac !== '00:00:00:00:00:00'
                ? (string) $mac
                : throw new \DomainException('no device has the MAC 00:00:00:00:00:00');
        }
        $name = rtrim(strtolower($row['name'] ?? ''), '.');
        if ($name !== '') {
            $parsed = Name::tryParse($name.'.') ?? throw new \DomainException("name \"$name\" is no domain name");
            $fault = HostName::fault($parsed);
            if ($fault !== null && $fault['code'] === HostName::IMPOSSIBLE) {
                throw new \DomainException("name \"$name\": {$fault['message']} (RFC 1123 §2.1)");
            }
            $input['name'] = rtrim((string) $parsed->lower(), '.');
        }
        self::fits(PlaceHost::class, ['prefix' => self::LATER] + $input);
        $input += array_filter([
            'device' => $this->named($this->devices, 'device', $row['device'] ?? ''),
            'inZone' => $this->zone($row['zone'] ?? ''),
        ]);

        return [
            'line' => $line, 'verdict' => RowVerdict::Read, 'what' => trim("$address $name"), 'reason' => '',
            'payload' => ['is' => 'host', 'input' => $input], 'place' => self::place($address->in($address->family->bits()), 2),
        ];
    }

    /** Bytes whose order is a walk of the tree: family, first, length, supernet before subnet before host. */
    public static function place(Net $net, int $rank): string
    {
        return chr($net->family()->value).str_pad($net->first->bytes, 16, "\0").chr($net->length).chr($rank);
    }

    /**
     * The rules of the act for each of its inputs: length, words, numbers.
     *
     * @param  class-string<Act>  $act
     * @param  array<string, mixed>  $input
     *
     * @throws BadInput
     */
    private static function fits(string $act, array $input): void
    {
        Inputs::read($act, $input);
    }

    /** @param  array<string, string>  $known */
    private function named(array $known, string $what, string $name): string
    {
        return $name === ''
            ? ''
            : ($known[mb_strtolower(trim($name))] ?? throw new \DomainException("$what \"$name\" is not in the directory; add it first"));
    }

    private static function vlan(string $number): string
    {
        if ($number !== '' && (! ctype_digit($number) || (int) $number < 1 || (int) $number > 4094)) {
            throw new \DomainException("VLAN \"$number\": a number from 1 to 4094 was expected");
        }

        return $number;
    }

    /** @return string id; "-" for no name in DNS, blank when nothing is said */
    private function zone(string $text): string
    {
        if ($text === '' || $text === '-') {
            return $text;
        }
        if (! array_key_exists($text, $this->zones)) {
            [$name, $view] = [...explode('/', $text, 2), null];
            $found = Zone::query()->where('name', rtrim(strtolower((string) $name), '.').'.')
                ->when($view, fn ($q) => $q->whereHas('view', fn ($v) => $v->where('name', $view)))->pluck('id');
            if ($found->count() > 1) {
                throw new \DomainException("zone \"$text\" stands in several views; write it as $name/VIEW");
            }
            $this->zones[$text] = $found->first();
        }

        return $this->zones[$text] ?? throw new \DomainException("zone \"$text\" is not there; make it first");
    }

    /**
     * @param  array<string, string>  $row
     * @return array<string, string> id of the field → value
     */
    private function ownValues(array $row): array
    {
        $values = [];
        foreach ($row as $column => $value) {
            if ($value !== '' && str_starts_with($column, 'own:')) {
                $name = substr($column, 4);
                $values[
                    $this->own[mb_strtolower($name)] ?? throw new \DomainException("own field \"$name\" is not there; make it first")
                ] = $value;
            }
        }

        return $values;
    }

    /**
     * @param  class-string<\App\Models\Model>  $class
     * @return array<string, string>
     */
    private static function byName(string $class): array
    {
        return $class::query()->pluck('id', 'name')
            ->mapWithKeys(fn (string $id, string $name): array => [mb_strtolower($name) => $id])->all();
    }
}
