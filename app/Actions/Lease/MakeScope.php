<?php

declare(strict_types=1);

namespace App\Actions\Lease;

use App\Actions\Action;
use App\Actions\Field;
use App\Actions\Kind;
use App\Actions\Ledger;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\ScopeExclusion;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;

/** A scope is made on a subnet: its ranges, exclusions, servers and the options that every client needs. */
final readonly class MakeScope extends Action
{
    /**
     * @param  list<string>  $ranges  "first-last", with "@server name" behind it when only that server may use it
     * @param  list<string>  $exclusions
     * @param  list<string>  $servers
     */
    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name = '',
        #[Field(Kind::Choice, 'Stage', choices: ['planned', 'live'])]
        public string $stage = 'live',
        #[Field(Kind::Texts, 'Ranges', most: 120)]
        public array $ranges = [],
        #[Field(Kind::Texts, 'Exclusions', most: 120)]
        public array $exclusions = [],
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public array $servers = [],
        #[Field(Kind::Line, 'Lease time', most: 30)]
        public string $leaseTime = '28800',
        #[Field(Kind::Line, 'Router', most: 255)]
        public string $router = '',
        #[Field(Kind::Line, 'Name servers', most: 1000)]
        public string $dns = '',
        #[Field(Kind::Line, 'Domain', most: 255)]
        public string $domain = '',
        #[Field(Kind::Line, 'Search suffixes', most: 2000)]
        public string $search = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return 'Make a scope '.$this->name;
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return "/lease/scope/$this->id";
    }

    public function apply(Ledger $ledger): void
    {
        $subnet = Prefix::query()->find($this->prefix) ?? $ledger->refuse('no-subnet', 'Choose a subnet', field: 'prefix');
        if (! $subnet->isSubnet() || $subnet->family !== 4) {
            $ledger->refuse('no-subnet', "{$subnet->line()} is no IPv4 subnet", 'A DHCPv4 scope leases addresses of an IPv4 subnet.', null, 'prefix');
        }
        $twin = Scope::query()->where('prefix_id', $subnet->id)->first();
        if ($twin !== null) {
            $ledger->refuse('scope-twice', "The subnet has the scope $twin->name", field: 'prefix', link: "/lease/scope/$twin->id");
        }
        if ($subnet->stage === 'planned' && $this->stage === 'live') {
            $ledger->warn('subnet-planned', 'The subnet is still planned', 'Servers would lease addresses of a link that is not there yet.');
        }
        $scope = new Scope(['id' => $this->id, 'prefix_id' => $subnet->id, 'name' => $this->name ?: ($subnet->name ?: (string) $subnet->prefix()), 'stage' => $this->stage === 'planned' ? 'planned' : 'live', 'lease_time' => self::leaseTime($ledger, $this->leaseTime), 'description' => $this->description]);
        $scope->save();
        $servers = self::servers($ledger, $this->servers);
        foreach ($servers as $server) {
            (new ScopeServer(['scope_id' => $scope->id, 'server_id' => $server->id]))->save();
        }
        self::writeRanges($ledger, $scope, $subnet, $this->ranges, $servers);
        self::writeExclusions($ledger, $scope, $this->exclusions);
        foreach ([OptionTable::ROUTER => $this->router ?: (string) $subnet->gateway, OptionTable::NAME_SERVERS => $this->dns, OptionTable::DOMAIN => $this->domain, OptionTable::SEARCH => $this->search] as $code => $text) {
            if (trim($text) !== '') {
                SetOption::write($ledger, $scope, $code, preg_split('/[\s,]+/', trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: []);
            }
        }
    }

    public static function leaseTime(Ledger $ledger, string $text): int
    {
        try {
            $seconds = Ttl::parse(trim($text))->seconds;
        } catch (Malformed) {
            $ledger->refuse('bad-lease-time', "\"$text\" is no time", 'Seconds, or with units: 8h, 3d.', 'RFC 2132 §9.2', 'leaseTime');
        }
        if ($seconds < 60) {
            $ledger->refuse('short-lease', 'A lease of less than a minute renews all the time', standard: 'RFC 2131 §4.4.5', field: 'leaseTime');
        }
        if ($seconds < 600) {
            $ledger->warn('short-lease', 'A lease this short renews every '.Ttl::of(intdiv($seconds, 2))->spoken(), 'Every client asks that often; a server that is away is felt at once.', 'RFC 2131 §4.4.5', 'leaseTime');
        }

        return $seconds;
    }

    /**
     * @param  list<string>  $ids
     * @return list<Server>
     */
    public static function servers(Ledger $ledger, array $ids): array
    {
        $servers = Server::query()->whereIn('id', $ids)->where('kind', 'dhcp')->orderBy('name')->get()->all();
        if ($servers === []) {
            $ledger->warn('no-servers', 'No DHCP server is chosen', 'Nobody leases the scope.', null, 'servers');
        } elseif (count($servers) === 1) {
            $ledger->warn('one-server', "Only {$servers[0]->name} leases this scope", 'One outage leaves new clients without an address.', null, 'servers');
        }

        return array_values($servers);
    }

    /**
     * @param  list<string>  $texts
     * @param  list<Server>  $servers
     */
    public static function writeRanges(Ledger $ledger, Scope $scope, Prefix $subnet, array $texts, array $servers): void
    {
        $net = $subnet->prefix();
        $seen = [];
        foreach ($texts as $text) {
            [$range, $server] = self::range($ledger, $text, $servers);
            if (! $net->usable()->contains($range)) {
                $ledger->refuse('range-outside', "$range is not inside the usable addresses of $net", "Usable are {$net->usable()}.", null, 'ranges');
            }
            if ($subnet->gateway !== null && $range->contains($subnet->gateway)) {
                $ledger->refuse('gateway-in-range', "The gateway $subnet->gateway is inside $range", 'A server would lease it out. Start the range behind it.', null, 'ranges');
            }
            foreach ($seen as $other) {
                if ($range->overlaps($other)) {
                    $ledger->refuse('range-overlap', "$range overlaps $other", 'Two servers, or one twice, would lease the same address.', null, 'ranges');
                }
            }
            $seen[] = $range;
            (new ScopeRange(['scope_id' => $scope->id, 'server_id' => $server?->id, 'first' => $range->first, 'last' => $range->last]))->save();
            foreach (Server::query()->whereBetween('address', [$range->first->bytes, $range->last->bytes])->whereRaw('LENGTH(address) = 4')->get() as $server) {
                $ledger->warn('server-in-range', "The server $server->name has its address $server->address inside $range", 'Servers keep fixed addresses; exclude it.', null, 'ranges', "/ship/server/$server->id");
            }
            $inside = Host::query()->where('prefix_id', $subnet->id)->whereBetween('address', [$range->first->bytes, $range->last->bytes])->limit(4)->get();
            foreach ($inside as $host) {
                $ledger->warn('host-in-range', "{$host->line()} stands inside $range", 'A server may lease its address; reserve or exclude it.', null, 'ranges', "/plan/prefix/$subnet->id?address=$host->address");
            }
        }
        if ($seen !== []) {
            $ledger->passed('ranges', 'The ranges are inside the subnet and apart from the gateway');
        }
    }

    /** @param  list<string>  $texts */
    public static function writeExclusions(Ledger $ledger, Scope $scope, array $texts): void
    {
        foreach ($texts as $text) {
            try {
                $range = AddressRange::parse($text);
            } catch (NotUnderstood $e) {
                $ledger->refuse('bad-range', $e->getMessage(), field: 'exclusions');
            }
            $inside = ScopeRange::query()->where('scope_id', $scope->id)->get()->contains(fn (ScopeRange $r): bool => $r->range()->overlaps($range));
            if (! $inside) {
                $ledger->warn('exclusion-outside', "$range is in no range of the scope", 'Excluding it changes nothing.', null, 'exclusions');
            }
            (new ScopeExclusion(['scope_id' => $scope->id, 'first' => $range->first, 'last' => $range->last]))->save();
        }
    }

    /**
     * @param  list<Server>  $servers
     * @return array{AddressRange, ?Server}
     */
    private static function range(Ledger $ledger, string $text, array $servers): array
    {
        [$addresses, $name] = [...explode('@', $text, 2), null];
        try {
            $range = AddressRange::parse(trim((string) $addresses));
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-range', $e->getMessage(), field: 'ranges');
        }
        if ($name === null) {
            return [$range, null];
        }
        foreach ($servers as $server) {
            if ($server->name === trim($name)) {
                return [$range, $server];
            }
        }
        $ledger->refuse('no-server', "\"$name\" is no server of this scope", 'A range of one server names one of the servers chosen.', null, 'ranges');
    }

    public static function net(Scope $scope): Net
    {
        return $scope->prefix->prefix();
    }
}
