<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\Release;
use App\Models\Ability;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Queries\Granted;

/** Hosts give back their addresses, with their records and reservations. */
final readonly class ReleaseHosts extends Act
{
    /** @param  list<string>  $hosts */
    public function __construct(
        #[Field(Kind::Ids, 'Hosts', of: Host::class)]
        public array $hosts,
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix = '',
    ) {
    }

    public function title(): string
    {
        return count($this->hosts) === 1
            ? 'Release '.(Host::query()->find($this->hosts[0])?->line() ?? 'a host')
            : 'Release '.count($this->hosts).' hosts';
    }

    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Hosts);
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->prefix);
    }

    public function apply(Ledger $ledger): void
    {
        Release::picked($ledger, $this->hosts);
    }
}
