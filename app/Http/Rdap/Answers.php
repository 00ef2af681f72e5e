<?php

declare(strict_types=1);

namespace App\Http\Rdap;

use App\Models\Prefix;
use App\Models\Record;
use App\Models\Stage;
use App\Models\Tenant;
use App\Models\Zone;
use App\Models\ZoneKey;
use App\Queries\Reach;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Support\Facades\DB;

/**
 * Objects of the plan as registration data (RFC 9083), as far as the person may see them; what is left out by right is said (RFC 9537 §3).
 */
final readonly class Answers
{
    private const CONFORMS = ['rdap_level_0', 'cidr0', 'redacted'];

    /** Objects that a search names. */
    private const FOUND = 50;

    public function __construct(private Reach $reach, private string $base)
    {
    }

    /** @return array<string, mixed> */
    public function help(): array
    {
        return [
            'rdapConformance' => self::CONFORMS,
            'notices' => [[
                'title' => 'Harbor Post', 'description' => [
                    'Networks by address or prefix, domains, name servers and entities of one organisation\'s plan.',
                    'You see what the person of your token may see.',
                ],
            ]],
        ];
    }

    /**
     * @param  array<string, mixed>  $object
     * @return array<string, mixed>
     */
    public function whole(array $object): array
    {
        $whole = ['rdapConformance' => self::CONFORMS] + $object;
        if (! $this->reach->isWhole()) {
            $whole['notices'] = [
                [
                    'title' => 'Data policy',
                    'type' => 'result set truncated due to authorization',
                    'description' => ['What is not yours is not told.'],
                ],
            ];
        }

        return $whole;
    }

    /** @return array<string, mixed> */
    public function network(Prefix $prefix, bool $deep = true): array
    {
        $net = $prefix->prefix();
        $tenant = $prefix->effective_tenant_id === null ? null : $this->reach->ofNoun(Tenant::noun())?->find($prefix->effective_tenant_id);
        $parent = $this->parent($prefix);
        $redacted = array_values(array_filter([
            $prefix->parent_id !== null && $parent === null ? self::redacted('Network above', '$.parentHandle') : null,
            $deep && $prefix->effective_tenant_id !== null && $tenant === null
                ? self::redacted('Registrant', "$.entities[?(@.roles[0]=='registrant')]") : null,
        ]));

        return array_filter([
            'objectClassName' => 'ip network', 'handle' => $prefix->id, 'startAddress' => (string) $net->first,
            'endAddress' => (string) $net->last(),
            'ipVersion' => $net->family()->value === 4
                ? 'v4' : 'v6', 'name' => $prefix->name ?: null, 'type' => strtoupper($prefix->kind->value),
            'parentHandle' => $parent,
            'status' => [match ($prefix->stage) {
                Stage::Live, Stage::Retiring => 'active',
                Stage::Withheld => 'reserved',
                Stage::Planned => 'inactive',
            }],
            'cidr0_cidrs' => [[$net->family()->value === 4 ? 'v4prefix' : 'v6prefix' => (string) $net->first, 'length' => $net->length]],
            'remarks' => $prefix->description === '' ? null : [['description' => [$prefix->description]]],
            'entities' => $tenant instanceof Tenant && $deep ? [$this->entity($tenant, ['registrant'])] : null,
            'events' => $this->events('prefix', $prefix->id), 'links' => $this->links("ip/$net"), 'redacted' => $redacted,
        ], static fn (mixed $v): bool => $v !== null && $v !== []);
    }

    /**
     * What is there and is not told to this person (RFC 9537 §4.2).
     *
     * @return array<string, mixed>
     */
    private static function redacted(string $name, string $path): array
    {
        return [
            'name' => ['description' => $name], 'prePath' => $path, 'pathLang' => 'jsonpath', 'method' => 'removal',
            'reason' => ['description' => 'Not within what the person of this token may see'],
        ];
    }

    /** @return array<string, mixed> */
    public function domain(Zone $zone): array
    {
        $name = Name::parse($zone->name);
        $servers = Record::query()->where('zone_id', $zone->id)->where('owner', $zone->name)->where('type', RecordType::NS)->limit(50)
            ->pluck('data');

        return array_filter([
            'objectClassName' => 'domain', 'handle' => $zone->id, 'ldhName' => rtrim((string) $name->lower(), '.'),
            'unicodeName' => $zone->title(),
            'status' => ['active'], 'variants' => null,
            'nameservers' => array_map(fn (string $n): array => $this->nameserver($n), $servers->map(strval(...))->all()),
            'secureDNS' => self::signing($zone), 'remarks' => [['title' => 'View', 'description' => [$zone->view->name]]],
            'events' => $this->events('zone', $zone->id), 'links' => $this->links('domain/'.rtrim($zone->name, '.')),
        ], static fn (mixed $v): bool => $v !== null && $v !== []);
    }

    /**
     * Signed is a zone when all its servers have signatures, and its delegation when the parent was seen to name a key (RFC 9083 §5.3).
     *
     * @return array<string, mixed>
     */
    private static function signing(Zone $zone): array
    {
        $named = $zone->keys->filter(
            static fn (ZoneKey $k): bool => $k->role->isEntry() && $k->ds_seen !== null && $k->retired === null && $k->removed === null
                && $zone->unsign_seen === null,
        );
        $signs = ['zoneSigned' => $zone->signed_since !== null, 'delegationSigned' => $named->isNotEmpty()];

        return $named->isEmpty() ? $signs : $signs + ['dsData' => array_values($named->map(static function (ZoneKey $key): array {
            $ds = $key->ds();

            return [
                'keyTag' => $ds->keyTag(), 'algorithm' => $ds->algorithm(), 'digestType' => $ds->digestType(),
                'digest' => bin2hex($ds->digest()),
            ];
        })->all())];
    }

    /** @return array<string, mixed> */
    public function nameserver(string $name): array
    {
        $addresses = ['v4' => [], 'v6' => []];
        foreach (
            $this->reach->records()->where('owner', strtolower($name))->whereIn('type', [RecordType::A, RecordType::AAAA])->limit(20)
                ->get() as $record
        ) {
            $addresses[$record->type === RecordType::A ? 'v4' : 'v6'][] = $record->data;
        }
        $addresses = array_map(static fn (array $a): array => array_values(array_unique($a)), array_filter($addresses));

        return ['objectClassName' => 'nameserver', 'ldhName' => rtrim(strtolower($name), '.')]
            + ($addresses === [] ? [] : ['ipAddresses' => $addresses])
            + ['links' => $this->links('nameserver/'.rtrim($name, '.'))];
    }

    /**
     * @param  list<string>  $roles
     * @return array<string, mixed>
     */
    public function entity(Tenant $tenant, array $roles = []): array
    {
        return array_filter([
            'objectClassName' => 'entity', 'handle' => $tenant->id, 'roles' => $roles,
            'vcardArray' => [
                'vcard',
                [
                    ['version', new \stdClass, 'text', '4.0'],
                    ['fn', new \stdClass, 'text', $tenant->name],
                    ['kind', new \stdClass, 'text', 'org'],
                ],
            ],
            'links' => $this->links("entity/$tenant->id"),
        ]);
    }

    /** @return array<string, mixed> */
    public function domains(string $pattern): array
    {
        $rows = $this->reach->zones()->with(['view', 'keys.zone'])->where('zones.name', 'like', self::like($pattern).'.')
            ->orderBy('zones.name')->limit(self::FOUND)->get();

        return ['domainSearchResults' => array_values($rows->map($this->domain(...))->all())];
    }

    /** @return array<string, mixed> */
    public function nameservers(string $pattern): array
    {
        $names = $this->reach->records()->where('type', RecordType::NS)->where('data', 'like', self::like($pattern).'.')->distinct()
            ->orderBy('data')->limit(self::FOUND)->pluck('data');

        return ['nameserverSearchResults' => array_values($names->map(fn ($n): array => $this->nameserver((string) $n))->all())];
    }

    /** @return array<string, mixed> */
    public function entities(string $pattern): array
    {
        $rows = $this->reach->ofNoun(Tenant::noun())?->where('name', 'like', self::like($pattern))->orderBy('name')->limit(self::FOUND)
            ->get() ?? collect();

        return ['entitySearchResults' => array_values($rows->map(fn ($t): array => $t instanceof Tenant ? $this->entity($t) : [])->all())];
    }

    /** A pattern with one asterisk (RFC 9082 §4.1), for LIKE. */
    private static function like(string $pattern): string
    {
        return str_replace('*', '%', addcslashes(strtolower(rtrim($pattern, '.')), '%_\\'));
    }

    private function parent(Prefix $prefix): ?string
    {
        return $prefix->parent_id !== null && $this->reach->prefixes()->whereKey($prefix->parent_id)->exists() ? $prefix->parent_id : null;
    }

    /** @return list<array{eventAction: string, eventDate: string}> */
    private function events(string $noun, string $id): array
    {
        $rows = DB::table('history')->where('object_type', $noun)->where('object_id', $id);
        $events = [];
        foreach ([
            'registration' => (clone $rows)->orderBy('id')->value('at'),
            'last changed' => (clone $rows)->orderByDesc('id')->value('at'),
        ] as $action => $at) {
            if (is_string($at)) {
                $events[] = ['eventAction' => $action, 'eventDate' => CarbonImmutable::parse($at)->toIso8601ZuluString()];
            }
        }

        return $events;
    }

    /** @return list<array<string, string>> */
    private function links(string $path): array
    {
        $href = "$this->base/$path";

        return [['value' => $href, 'rel' => 'self', 'href' => $href, 'type' => 'application/rdap+json']];
    }
}
