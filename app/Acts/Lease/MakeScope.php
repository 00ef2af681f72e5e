<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\OptionPlace;
use App\Domain\Lease\Options;
use App\Domain\Lease\ScopeRanges;
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
final readonly class MakeScope extends Act
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
        #[Field(Kind::Flag, 'Divide', 'Divides ranges between the servers: four fifths for the first, so that no address is leased by two')]
        public bool $divide = false,
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
            $ledger->refuse(
                'no-subnet',
                "{$subnet->line()} is no IPv4 subnet",
                'A DHCPv4 scope leases addresses of an IPv4 subnet.',
                null,
                'prefix',
            );
        }
        $twin = Scope::query()->where('prefix_id', $subnet->id)->first();
        if ($twin !== null) {
            $ledger->refuse('scope-twice', "The subnet has the scope $twin->name", field: 'prefix', link: "/lease/scope/$twin->id");
        }
        if ($subnet->stage === 'planned' && $this->stage === 'live') {
            $ledger->warn(
                'subnet-planned',
                'The subnet is still planned',
                'Servers would lease addresses of a link that is not there yet.',
            );
        }
        $scope = new Scope([
            'id' => $this->id, 'prefix_id' => $subnet->id, 'name' => $this->name ?: ($subnet->name ?: (string) $subnet->prefix()),
            'stage' => $this->stage === 'planned' ? 'planned' : 'live', 'lease_time' => self::leaseTime($ledger, $this->leaseTime),
            'description' => $this->description,
        ]);
        $scope->save();
        $servers = self::servers($ledger, $this->servers);
        foreach ($servers as $server) {
            (new ScopeServer(['scope_id' => $scope->id, 'server_id' => $server->id]))->save();
        }
        ScopeRanges::write($ledger, $scope, $subnet, $this->ranges, $servers, $this->divide);
        self::writeExclusions($ledger, $scope, $this->exclusions);
        foreach (
            [
                OptionTable::ROUTER => $this->router ?: (string) $subnet->gateway, OptionTable::NAME_SERVERS => $this->dns,
                OptionTable::DOMAIN => $this->domain, OptionTable::SEARCH => $this->search,
            ] as $code => $text
        ) {
            if (trim($text) !== '') {
                Options::write($ledger, OptionPlace::ofScope($scope), $code, OptionTable::split($code, $text));
            }
        }
    }

    public static function leaseTime(Ledger $ledger, string $text): int
    {
        if (strtolower(trim($text)) === 'infinite' || trim($text) === (string) Scope::INFINITE) {
            $ledger->warn(
                'infinite-lease',
                'A lease without an end is never given back by a client that goes',
                'The pool fills with clients of long ago, and no change of an option reaches them by renewal.',
                'RFC 2131 §3.3',
                'leaseTime',
            );

            return Scope::INFINITE;
        }
        try {
            $seconds = Ttl::parse(trim($text))->seconds;
        } catch (Malformed) {
            $ledger->refuse('bad-lease-time', "\"$text\" is no time", 'Seconds, or with units: 8h, 3d.', 'RFC 2132 §9.2', 'leaseTime');
        }
        if ($seconds < 60) {
            $ledger->refuse(
                'short-lease',
                'A lease of less than a minute renews all the time',
                standard: 'RFC 2131 §4.4.5',
                field: 'leaseTime',
            );
        }
        if ($seconds < 600) {
            $ledger->warn(
                'short-lease',
                'A lease this short renews every '.Ttl::of(intdiv($seconds, 2))->spoken(),
                'Every client asks that often; a server that is away is felt at once.',
                'RFC 2131 §4.4.5',
                'leaseTime',
            );
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
            $ledger->warn(
                'one-server',
                "Only {$servers[0]->name} leases this scope",
                'One outage leaves new clients without an address.',
                null,
                'servers',
            );
        }

        return array_values($servers);
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
            $inside = ScopeRange::query()->where('scope_id', $scope->id)->get()
                ->contains(fn (ScopeRange $r): bool => $r->range()->overlaps($range));
            if (! $inside) {
                $ledger->warn(
                    'exclusion-outside',
                    "$range is in no range of the scope",
                    'Excluding it changes nothing.',
                    null,
                    'exclusions',
                );
            }
            (new ScopeExclusion(['scope_id' => $scope->id, 'first' => $range->first, 'last' => $range->last]))->save();
        }
    }

    public static function net(Scope $scope): Net
    {
        return $scope->prefix->prefix();
    }
}
