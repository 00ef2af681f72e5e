<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\NewZone;
use App\Domain\Name\ZoneApex;
use App\Models\Person;
use App\Models\Role;
use App\Models\Server;
use App\Models\Tenant;
use App\Models\View;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;

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
        return at('name.zone', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        ZoneApex::make($ledger, new NewZone(
            $this->id, $this->name, $this->view, $this->servers, $this->mailbox, $this->nameServers, $this->refresh, $this->retry,
            $this->expire, $this->negativeTtl, $this->defaultTtl, $this->tenant, $this->description,
        ));
    }
}
