<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\NewScope;
use App\Domain\Lease\Pairs;
use App\Domain\Lease\Scopes;
use App\Models\Pair;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Server;
use App\Models\Stage;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V6\Code;

/** A scope is made on a subnet: its ranges, exclusions, servers and the options that every client needs. */
final readonly class MakeScope extends Act
{
    /**
     * @param  list<string>  $ranges  "first-last", with "@server name" behind it when only that server may use it
     * @param  list<string>  $exclusions
     * @param  list<string>  $servers
     * @param  list<string>  $delegations
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
        #[Field(Kind::Lines, 'Ranges', 'Each first-last, or a rule: all but the first 20', most: 120)]
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
        #[Field(Kind::Id, 'Pair', 'Two servers that tell each other lease it, in place of the servers', of: Pair::class)]
        public string $pair = '',
        #[Field(Kind::Line, 'Preferred life', 'Of IPv6: how long new connections may begin; blank: as long as the lease', most: 30)]
        public string $preferred = '',
        #[Field(Kind::Lines, 'Delegated', 'Of IPv6: pools for routers, each as 2001:db8:40::/44 as /56', most: 120)]
        public array $delegations = [],
        #[Field(Kind::Flag, 'Rapid commit', 'Of IPv6: answers in one step to who asks for it')]
        public bool $rapid = false,
        #[Field(Kind::Flag, 'Addresses of one\'s own', 'Of IPv6: clients make addresses of their own too')]
        public bool $autonomous = false,
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
        return at('lease.scope', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        $subnet = Prefix::query()->find($this->prefix) ?? $ledger->refuse('no-subnet', 'Choose a subnet', field: 'prefix');
        Scopes::checkSubnet($ledger, $subnet, 'prefix');
        $pair = Pairs::named($ledger, $this->pair);
        $time = Scopes::leaseTime($ledger, $this->leaseTime);
        Scopes::make(
            $ledger,
            $subnet,
            new NewScope(
                $this->id,
                $this->name,
                Stage::from($this->stage),
                $time,
                $pair,
                $pair === null ? Scopes::servers($ledger, $this->servers) : array_values($pair->servers()),
                $this->ranges,
                $this->exclusions,
                $this->divide,
                $this->description,
                $this->options($ledger, $subnet),
                Scopes::preferred($ledger, $subnet, $this->preferred, $time),
                $this->rapid,
                $this->autonomous,
                $this->delegations,
            ),
        );
    }

    /** @return array<int, string> */
    private function options(Ledger $ledger, Prefix $subnet): array
    {
        if ($subnet->family === 4) {
            return [
                OptionTable::ROUTER => $this->router ?: (string) $subnet->gateway, OptionTable::NAME_SERVERS => $this->dns,
                OptionTable::DOMAIN => $this->domain, OptionTable::SEARCH => $this->search,
            ];
        }
        if ($this->router !== '' || $this->domain !== '') {
            $ledger->refuse(
                'not-in-v6',
                'DHCPv6 tells no router and no domain: a router tells of itself, and a domain is the first search suffix',
                'Leave them blank.',
                'RFC 4861 §4.2',
                $this->router !== '' ? 'router' : 'domain',
            );
        }

        return [Code::NAME_SERVERS => $this->dns, Code::SEARCH => $this->search];
    }
}
