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
use HarborPost\Core\Dhcp\Option\OptionTable;

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
        #[Field(Kind::Id, 'Pair', 'Two servers that tell each other lease it, in place of the servers', of: Pair::class)]
        public string $pair = '',
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
        Scopes::checkSubnet($ledger, $subnet, 'prefix');
        $pair = Pairs::named($ledger, $this->pair);
        Scopes::make(
            $ledger,
            $subnet,
            new NewScope(
                $this->id,
                $this->name,
                $this->stage === 'planned' ? 'planned' : 'live',
                Scopes::leaseTime($ledger, $this->leaseTime),
                $pair,
                $pair === null ? Scopes::servers($ledger, $this->servers) : array_values($pair->servers()),
                $this->ranges,
                $this->exclusions,
                $this->divide,
                $this->description,
                [
                    OptionTable::ROUTER => $this->router ?: (string) $subnet->gateway, OptionTable::NAME_SERVERS => $this->dns,
                    OptionTable::DOMAIN => $this->domain, OptionTable::SEARCH => $this->search,
                ],
            ),
        );
    }
}
