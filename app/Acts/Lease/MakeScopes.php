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
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Planning\RangeRule;
use Illuminate\Support\Str;

/** Scopes on many subnets at once, their ranges by one rule: all of them or none. */
final readonly class MakeScopes extends Act
{
    public const MOST = 500;

    /**
     * @param  list<string>  $prefixes
     * @param  list<string>  $servers
     */
    public function __construct(
        #[Field(Kind::Ids, 'Subnets', of: Prefix::class)]
        public array $prefixes,
        #[Field(Kind::Line, 'Ranges by rule', 'from .20 to .200; the upper half; all but the first 20; the last 50; all', most: 80)]
        public string $rule = 'all but the first 20',
        #[Field(Kind::Choice, 'Stage', choices: ['planned', 'live'])]
        public string $stage = 'live',
        #[Field(Kind::Line, 'Lease time', most: 30)]
        public string $leaseTime = '8h',
        #[Field(Kind::Id, 'Pair', 'Two servers that tell each other lease them, in place of the servers', of: Pair::class)]
        public string $pair = '',
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public array $servers = [],
        #[Field(Kind::Flag, 'Divide', 'Divides ranges between the servers: four fifths for the first, so that no address is leased by two')]
        public bool $divide = true,
    ) {
    }

    public function title(): string
    {
        return 'Make '.(count($this->prefixes) === 1 ? 'a scope' : count($this->prefixes).' scopes');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease');
    }

    public function apply(Ledger $ledger): void
    {
        if (count($this->prefixes) > self::MOST) {
            $ledger->refuse('too-many', 'At most '.self::MOST.' scopes at once', field: 'prefixes');
        }
        $subnets = Prefix::query()->whereIn('id', $this->prefixes)->orderBy('first')->get();
        if ($subnets->isEmpty() || $subnets->count() !== count(array_unique($this->prefixes))) {
            $ledger->refuse('gone', 'A subnet of the selection is not there any more', 'Pick anew.', null, 'prefixes');
        }
        try {
            $rule = RangeRule::parse($this->rule);
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-range', $e->getMessage(), field: 'rule');
        }
        $pair = Pairs::named($ledger, $this->pair);
        $servers = $pair === null ? Scopes::servers($ledger, $this->servers) : array_values($pair->servers());
        $time = Scopes::leaseTime($ledger, $this->leaseTime);
        foreach ($subnets as $subnet) {
            Scopes::make($ledger, $subnet, new NewScope(
                (string) Str::ulid(),
                '',
                Stage::from($this->stage),
                $time,
                $pair,
                $servers,
                $this->ranges($ledger, $rule, $subnet),
                divide: $this->divide,
                options: [OptionTable::ROUTER => (string) $subnet->gateway],
            ));
        }
    }

    /** @return list<string> */
    private function ranges(Ledger $ledger, RangeRule $rule, Prefix $subnet): array
    {
        Scopes::checkSubnet($ledger, $subnet, 'prefixes');
        if ($subnet->family === 6) {
            $ledger->refuse(
                'not-in-v6',
                "{$subnet->line()} is IPv6: a rule counts addresses, of which there are too many",
                'Make its scope on a page of its own.',
                null,
                'prefixes',
                at('lease')."?make=$subnet->id",
            );
        }
        if ($subnet->gateway === null) {
            Scopes::sayNoGateway($ledger, $subnet);
        }
        try {
            return array_map(static fn (AddressRange $r): string => (string) $r, $rule->in($subnet->prefix(), $subnet->gateway));
        } catch (NotUnderstood $e) {
            $ledger->refuse(
                'rule-does-not-fit',
                "{$subnet->line()}: {$e->getMessage()}",
                'Take another rule, or leave this subnet out.',
                null,
                'rule',
                at('plan.prefix', $subnet->id),
            );
        }
    }
}
