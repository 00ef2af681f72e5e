<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange;

use HarborPost\Core\Dns\Name;

/** A name server as the path of a query sees it. */
final readonly class PathServer
{
    /**
     * @param  string  $address  by which others know it
     * @param  list<Name>  $zones  it answers with authority, in the view of the client
     * @param  list<string>  $forwarders  addresses, in order
     * @param  bool  $fallback  asks the roots when no forwarder answers
     * @param  bool  $hints  has root hints
     */
    public function __construct(
        public string $name,
        public string $address,
        public array $zones = [],
        public bool $recursion = false,
        public array $forwarders = [],
        public bool $fallback = false,
        public bool $hints = false,
        public bool $on = true,
        /** @var list<array{zone: Name, kind: string, addresses: list<string>}> forwarded zones and stubs */
        public array $special = [],
    ) {
    }
}
