<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Records;
use App\Models\Person;
use App\Models\Record;
use App\Models\Role;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Tenant;
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

/** A zone is made with its SOA, its NS and the addresses of name servers inside it. A prefix may be given for a reverse zone. */
final readonly class MakeZone extends Act
{
    /** @param  list<string>  $servers  ids of DNS servers, the primary first */
    public function __construct(
        #[Field(Kind::Line, 'Name', 'A name, or a prefix whose reverse zone is meant', most: 255)]
        public string $name,
        #[Field(Kind::Id, 'View', of: View::class)]
        public string $view,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public array $servers = [],
        #[Field(Kind::Line, 'Mailbox', most: 255)]
        public string $mailbox = '',
        #[Field(Kind::Number, 'Refresh', most: 2147483647)]
        public int $refresh = 7200,
        #[Field(Kind::Number, 'Retry', most: 2147483647)]
        public int $retry = 900,
        #[Field(Kind::Number, 'Expire', most: 2147483647)]
        public int $expire = 1209600,
        #[Field(Kind::Number, 'Negative TTL', most: 2147483647)]
        public int $negativeTtl = 300,
        #[Field(Kind::Number, 'Default TTL', most: 2147483647)]
        public int $defaultTtl = 3600,
        #[Field(Kind::Id, 'Tenant', of: Tenant::class)]
        public string $tenant = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
        #[Field(Kind::Text, 'Name servers', 'Name servers by name, for a zone whose servers are not in the directory', most: 4000)]
        public string $nameServers = '',
    ) {
    }

    public function title(): string
    {
        return "Make the zone $this->name";
    }

    public static function may(Person $person): bool
    {
        return ($person->does(Role::Planner) || $person->does(Role::Operator)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return "/name/zone/$this->id";
    }

    public function apply(Ledger $ledger): void
    {
        $view = View::query()->find($this->view) ?? $ledger->refuse('no-view', 'Choose a view', field: 'view');
        $origin = $this->origin($ledger);
        $twin = Zone::query()->where('name', (string) $origin->lower())->where('view_id', $view->id)->first();
        if ($twin !== null) {
            $ledger->refuse('zone-twice', "{$twin->line()} exists already", field: 'name', link: "/name/zone/$twin->id");
        }
        $servers = Server::query()->whereIn('id', $this->servers)->where('kind', ServerKind::Dns)->get()
            ->sortBy(fn (Server $s): int => (int) array_search($s->id, $this->servers, true))->values();
        if ($servers->isEmpty()) {
            $ledger->refuse('no-servers', 'Choose at least one DNS server', 'Its NS and SOA name it.', 'RFC 1912 §2.8', 'servers');
        }
        if ($servers->count() === 1) {
            $ledger->warn(
                'one-server',
                "Only {$servers[0]->name} answers for the zone",
                'One outage silences it.',
                'RFC 2182 §5',
                'servers',
            );
        }
        $names = $this->serverNames($ledger, $origin, $servers->all());
        $zone = new Zone([
            'id' => $this->id, 'view_id' => $view->id, 'name' => (string) $origin->lower(), 'primary_server' => (string) $names[0]->lower(),
            'mailbox' => (string) $this->mailbox($ledger, $origin, $names[0]), 'serial' => 0, 'refresh' => $this->refresh,
            'retry' => $this->retry, 'expire' => $this->expire,
            'negative_ttl' => $this->negativeTtl, 'default_ttl' => $this->defaultTtl, 'silenced' => false,
            'tenant_id' => $this->tenant ?: null, 'description' => $this->description,
        ]);
        self::timers($ledger, $zone);
        $zone->save();
        foreach ($servers as $i => $server) {
            (new ZoneServer(['zone_id' => $zone->id, 'server_id' => $server->id, 'part' => $i === 0 ? 'primary' : 'secondary']))->save();
        }
        foreach ($names as $i => $name) {
            Records::add($ledger, $zone, $origin, null, new Ns($name));
            $address = $servers[$i]->address ?? null;
            if ($address !== null && $name->isIn($origin)) {
                Records::add($ledger, $zone, $name, null, $address->family === Family::V4 ? A::of($address) : Aaaa::of($address));
            }
        }
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

    private function origin(Ledger $ledger): Name
    {
        if (
            preg_match('~\A[0-9a-fA-F:.]+(/\d+|\s+[0-9.]+)\z~', trim($this->name)) === 1 && ! str_ends_with(strtolower($this->name), 'arpa')
        ) {
            try {
                $zones = ReverseName::zones(Prefix::parse($this->name));
            } catch (NotUnderstood $e) {
                $ledger->refuse('not-a-prefix', $e->getMessage(), '', null, 'name', null, $e->suggestion);
            }
            if (count($zones) > 1) {
                $ledger->refuse(
                    'several-zones',
                    sprintf('%s takes %d reverse zones, %s to %s', $this->name, count($zones), $zones[0], $zones[count($zones) - 1]),
                    'Make them together under Reverse zones, or the zone of the shorter prefix around it.',
                    'RFC 1035 §3.5',
                    'name',
                    '/name/reverse?nets='.urlencode(trim($this->name)),
                );
            }

            return $zones[0];
        }
        try {
            return Name::parse(rtrim(trim($this->name), '.').'.')->lower();
        } catch (Malformed $e) {
            $ledger->refuse('bad-name', $e->getMessage(), standard: $e->standard, field: 'name');
        }
    }

    /**
     * @param  array<int, Server>  $servers
     * @return non-empty-list<Name>
     */
    private function serverNames(Ledger $ledger, Name $origin, array $servers): array
    {
        $given = preg_split('/[\s,]+/', $this->nameServers, -1, PREG_SPLIT_NO_EMPTY) ?: [];
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

    private function mailbox(Ledger $ledger, Name $origin, Name $server): Name
    {
        if (trim($this->mailbox) === '') {
            $home = ReverseName::prefixOf($origin) === null ? $origin : ($server->parent() ?? $origin);

            return $home->prepend('hostmaster')->lower();
        }

        return self::mailboxName($ledger, $this->mailbox, $origin);
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
