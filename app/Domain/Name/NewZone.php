<?php

declare(strict_types=1);

namespace App\Domain\Name;

/** What a zone is made of. */
final readonly class NewZone
{
    /**
     * @param  string  $name  a name, or a prefix whose reverse zone is meant
     * @param  list<string>  $servers  ids of DNS servers, the primary first
     * @param  string  $mailbox  blank: hostmaster
     * @param  string  $nameServers  by name, for a zone whose servers are not in the directory; blank: the servers' own
     */
    public function __construct(
        public string $id,
        public string $name,
        public string $view,
        public array $servers,
        public string $mailbox = '',
        public string $nameServers = '',
        public int $refresh = 7200,
        public int $retry = 900,
        public int $expire = 1209600,
        public int $negativeTtl = 300,
        public int $defaultTtl = 3600,
        public string $tenant = '',
        public string $description = '',
    ) {
    }
}
