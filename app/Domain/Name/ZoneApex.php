<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Acts\Engine\Ledger;
use App\Models\Part;
use App\Models\Record;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Speaks;
use App\Models\View;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Queries\Inherited;
use HarborPost\Core\Checks\Zone\SoaTimers;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Dns\Rdata\Aaaa;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/** A zone with what stands at its top: its SOA, its name servers and their addresses inside it. */
final class ZoneApex
{
    public static function make(Ledger $ledger, NewZone $new): Zone
    {
        $view = View::query()->find($new->view) ?? $ledger->refuse('no-view', 'Choose a view', field: 'view');
        $origin = self::origin($ledger, $new->name);
        $twin = Zone::query()->where('name', (string) $origin->lower())->where('view_id', $view->id)->first();
        if ($twin !== null) {
            $ledger->refuse('zone-twice', "{$twin->line()} exists already", field: 'name', link: at('name.zone', $twin->id));
        }
        // What is handed out from here is the primary, whatever its place in the list: it copies nothing.
        $all = Server::query()->whereIn('id', $new->servers)->where('kind', ServerKind::Dns)->get()->sortBy(
            fn (Server $s): int => $s->speaks === Speaks::Here ? -1 : (int) array_search($s->id, $new->servers, true),
        )->values();
        $servers = $all->reject(static fn (Server $s): bool => $s->speaks === Speaks::Here)->values();
        if ($servers->isEmpty() && $all->isNotEmpty()) {
            $ledger->refuse(
                'here-answers-nobody',
                "{$all->firstOrFail()->name} hands the zone out and answers no client",
                'Choose at least one server that copies it.',
                'RFC 1912 §2.8',
                'servers',
            );
        }
        if ($servers->isEmpty()) {
            $ledger->refuse('no-servers', 'Choose at least one DNS server', 'Its NS and SOA name it.', 'RFC 1912 §2.8', 'servers');
        }
        if ($servers->count() === 1) {
            $ledger->warn(
                'one-server',
                "Only {$servers->firstOrFail()->name} answers for the zone",
                'One outage silences it.',
                'RFC 2182 §5',
                'servers',
            );
        }
        $names = self::serverNames($ledger, $new, $origin, $servers->all());
        $zone = new Zone([
            'id' => $new->id, 'view_id' => $view->id, 'name' => (string) $origin->lower(), 'primary_server' => (string) $names[0]->lower(),
            'mailbox' => (string) self::mailbox($ledger, $new->mailbox, $origin, $names[0]), 'serial' => 0, 'refresh' => $new->refresh,
            'retry' => $new->retry, 'expire' => $new->expire,
            'negative_ttl' => $new->negativeTtl, 'default_ttl' => $new->defaultTtl, 'silenced' => false,
            'tenant_id' => $new->tenant ?: null, 'description' => $new->description,
        ]);
        self::timers($ledger, $zone);
        $zone->save();
        foreach ($all as $i => $server) {
            (new ZoneServer(['zone_id' => $zone->id, 'server_id' => $server->id, 'part' => $i === 0 ? Part::Primary : Part::Secondary]))
                ->save();
        }
        foreach ($names as $i => $name) {
            Records::add($ledger, $zone, $origin, null, new Ns($name));
            $address = $servers[$i]->address ?? null;
            if ($address !== null && $name->isIn($origin)) {
                Records::add($ledger, $zone, $name, null, $address->family === Family::V4 ? A::of($address) : Aaaa::of($address));
            }
        }

        return $zone;
    }

    public static function timers(Ledger $ledger, Zone $zone): void
    {
        foreach (['refresh', 'retry', 'expire', 'negative_ttl', 'default_ttl'] as $column) {
            if ($zone->$column < 0 || $zone->$column > 0x7FFFFFFF) {
                $ledger->refuse('bad-timer', "$column is a time in seconds", standard: 'RFC 2181 §8', field: $column);
            }
        }
        $faults = SoaTimers::faults($zone->soa());
        foreach ($faults as [$code, $message, $standard, $fix]) {
            $ledger->warn($code, ucfirst($message), "Sound is $fix.", $standard);
        }
        if ($faults === []) {
            $ledger->passed('soa-timers', 'SOA timers fit together', 'RFC 1912 §2.2');
        }
    }

    private static function origin(Ledger $ledger, string $typed): Name
    {
        if (
            preg_match('~\A[0-9a-fA-F:.]+(/\d+|\s+[0-9.]+)\z~', trim($typed)) === 1 && ! str_ends_with(strtolower($typed), 'arpa')
        ) {
            try {
                $zones = ReverseName::zones(Prefix::parse($typed));
            } catch (NotUnderstood $e) {
                $ledger->refuse('not-a-prefix', $e->getMessage(), '', null, 'name', null, $e->suggestion);
            }
            if (count($zones) > 1) {
                $ledger->refuse(
                    'several-zones',
                    sprintf('%s takes %d reverse zones, %s to %s', $typed, count($zones), $zones[0], $zones[count($zones) - 1]),
                    'Make them together under Reverse zones, or the zone of the shorter prefix around it.',
                    'RFC 1035 §3.5',
                    'name',
                    at('name.reverse').'?nets='.urlencode(trim($typed)),
                );
            }

            return $zones[0];
        }
        try {
            return Name::parse(rtrim(trim($typed), '.').'.')->lower();
        } catch (Malformed $e) {
            $ledger->refuse('bad-name', $e->getMessage(), standard: $e->standard, field: 'name');
        }
    }

    /**
     * @param  array<int, Server>  $servers
     * @return non-empty-list<Name>
     */
    private static function serverNames(Ledger $ledger, NewZone $new, Name $origin, array $servers): array
    {
        $given = preg_split('/[\s,]+/', $new->nameServers, -1, PREG_SPLIT_NO_EMPTY) ?: [];
        $home = ReverseName::prefixOf($origin) === null ? $origin : null;
        $names = [];
        foreach ($given !== [] ? $given : $servers as $server) {
            try {
                $names[] = $server instanceof Server
                    ? self::nameOf($server, $origin)
                    : Name::parse($server, $home ?? self::organisation($origin))->lower();
            } catch (Malformed $e) {
                $ledger->refuse('bad-name', $e->getMessage(), standard: $e->standard, field: 'nameServers');
            }
        }

        return $names !== [] ? $names : $ledger->refuse('no-servers', 'A zone needs a name server', field: 'servers');
    }

    /** The name of a server in NS records: the one that has its address, else its word in the organisation's domain. */
    public static function nameOf(Server $server, Name $origin): Name
    {
        return self::hostOf($server)
            ?? Name::parse($server->name, ReverseName::prefixOf($origin) === null ? $origin : self::organisation($origin))->lower();
    }

    /**
     * The name whose first label is the server's word and which has the server's address, else the one that zones on this very server
     * list.
     */
    private static function hostOf(Server $server): ?Name
    {
        $like = addcslashes(strtolower($server->name), '%_\\').'.%';
        $owner = $server->address === null
            ? null
            : Record::query()->where('owner', 'like', $like)
                ->where('type', $server->address->family === Family::V4 ? RecordType::A : RecordType::AAAA)
                ->where('data', (string) $server->address)->orderByRaw('CHAR_LENGTH(owner)')->orderBy('owner')->value('owner');
        $owner ??= Record::query()
            ->whereIn('zone_id', ZoneServer::query()->where('server_id', $server->id)->select('zone_id'))
            ->where('type', RecordType::NS)->where('target', 'like', $like)
            ->orderByRaw('CHAR_LENGTH(target)')->orderBy('target')->value('target');

        return is_string($owner) ? Name::parse($owner) : null;
    }

    /** The domain that the organisation hands down, else the zone itself: never a guess from other people's zones. */
    private static function organisation(Name $fallback): Name
    {
        $domain = (app(Inherited::class)->ofOrganisation()['domain']['value'] ?? [])[0] ?? '';

        return Name::tryParse(rtrim($domain, '.').'.') ?? $fallback;
    }

    private static function mailbox(Ledger $ledger, string $typed, Name $origin, Name $server): Name
    {
        if (trim($typed) === '') {
            $home = ReverseName::prefixOf($origin) === null ? $origin : ($server->parent() ?? $origin);

            return $home->prepend('hostmaster')->lower();
        }

        return self::mailboxName($ledger, $typed, $origin);
    }

    /** A mail address or a name; relative names are below the zone. */
    public static function mailboxName(Ledger $ledger, string $text, Name $origin): Name
    {
        $at = strpos(trim($text), '@');
        try {
            return $at === false
                ? Name::parse(trim($text), $origin)->lower()
                : Name::parse(rtrim(substr(trim($text), $at + 1), '.').'.')->prepend(substr(trim($text), 0, $at))->lower();
        } catch (Malformed $e) {
            $ledger->refuse(
                'bad-mailbox',
                $e->getMessage(),
                'A mail address such as hostmaster@kittiwake.example.',
                $e->standard,
                'mailbox',
            );
        }
    }
}
