<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\NewZone;
use App\Domain\Name\Records;
use App\Domain\Name\ZoneApex;
use App\Models\Host;
use App\Models\Person;
use App\Models\Record;
use App\Models\Server;
use App\Models\View;
use App\Models\Zone;
use App\Queries\Reach;
use App\Queries\ReverseGaps;
use App\Queries\Zones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Cname;
use HarborPost\Core\Dns\Rdata\Ns;
use HarborPost\Core\Dns\Rdata\Ptr;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;
use Illuminate\Support\Str;

/**
 * The reverse zones of one or many prefixes in one act: made with their name servers, delegated by the zone above (an RFC 2317 child
 * also by its CNAMEs), what stood above moves down, and the PTRs of hosts that have a name are written.
 */
final readonly class MakeReverseZones extends Act
{
    private const MOST = 1000;

    /**
     * @param  list<string>  $nets  prefixes as text
     * @param  list<string>  $servers  ids of DNS servers, the primary first
     */
    public function __construct(
        #[Field(Kind::Texts, 'Prefixes', most: 60)]
        public array $nets = [],
        #[Field(Kind::Id, 'View', of: View::class)]
        public string $view = '',
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public array $servers = [],
        #[Field(
            Kind::Choice,
            'Cut',
            'Exact: the zones that cover just the prefix, RFC 2317 below /24; around: the one on the boundary above',
            choices: ['exact', 'around'],
        )]
        public string $cut = 'exact',
        #[Field(Kind::Flag, 'Write PTRs')]
        public bool $pointers = false,
        #[Field(Kind::Line, 'Mailbox', most: 255)]
        public string $mailbox = '',
        #[Field(Kind::Text, 'Name servers', 'Name servers by name, for servers that are not in the directory', most: 4000)]
        public string $nameServers = '',
        #[Field(Kind::Flag, 'All gaps', 'Takes every live subnet that no reverse zone covers')]
        public bool $gaps = false,
    ) {
    }

    public function title(): string
    {
        return $this->gaps
            ? 'Make the reverse zones of all live subnets without one'
            : (
                count($this->nets) === 1
                    ? "Make the reverse zones of {$this->nets[0]}"
                    : 'Make the reverse zones of '.count($this->nets).' prefixes'
            );
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name');
    }

    public function apply(Ledger $ledger): void
    {
        $view = View::query()->find($this->view) ?? $ledger->refuse('no-view', 'Choose a view', field: 'view');
        $origins = $this->origins($ledger);
        $made = 0;
        foreach ($origins as $origin) {
            $twin = Zone::query()->where('name', (string) $origin)->where('view_id', $view->id)->first();
            if ($twin !== null) {
                $ledger->passed('zone-there', "{$twin->title()} exists already");

                continue;
            }
            $above = $this->above($origin, $view->id);
            $zone = ZoneApex::make(
                $ledger,
                new NewZone((string) Str::ulid(), (string) $origin, $view->id, $this->servers, $this->mailbox, $this->nameServers),
            );
            $above === null ? $this->nobodyAbove($ledger, $origin) : $this->delegate($ledger, $above, $zone);
            $made++;
        }
        foreach ($this->pointers ? $this->prefixes($ledger) : [] as $net) {
            $this->point($ledger, $net, $view->id);
        }
        $ledger->made['zones'] = $made;
        if ($made === 0) {
            $ledger->warn('nothing-to-make', 'Every zone is there already', 'Nothing is made.');
        }
    }

    /** @return list<Prefix> */
    private function prefixes(Ledger $ledger): array
    {
        $nets = [];
        $texts = preg_split(
            '/[\s,;]+/',
            implode(' ', array_map(static fn (mixed $t): string => is_scalar($t) ? (string) $t : '', $this->nets)),
            -1,
            PREG_SPLIT_NO_EMPTY,
        )
            ?: [];
        foreach ($this->gaps && $ledger->person !== null ? ReverseGaps::of(Reach::of($ledger->person), self::MOST) : [] as $gap) {
            $texts[] = (string) $gap['prefix']->prefix();
        }
        foreach (array_unique($texts) as $text) {
            try {
                $nets[] = Prefix::parse($text);
            } catch (NotUnderstood $e) {
                $ledger->refuse('not-a-prefix', $e->getMessage(), '', null, 'nets', null, $e->suggestion);
            }
        }

        return $nets !== [] ? $nets : $ledger->refuse('no-prefix', 'Choose or type at least one prefix', field: 'nets');
    }

    /** @return list<Name> */
    private function origins(Ledger $ledger): array
    {
        $origins = [];
        foreach ($this->prefixes($ledger) as $net) {
            foreach ($this->cut === 'around' ? [ReverseName::around($net)] : ReverseName::zones($net) as $origin) {
                $origins[(string) $origin->lower()] = $origin->lower();
            }
        }
        if (count($origins) > self::MOST) {
            $ledger->refuse(
                'several-zones',
                count($origins).' zones at once are more than '.self::MOST,
                'Choose fewer prefixes, or the zones around them.',
                'RFC 1035 §3.5',
                'nets',
            );
        }
        // The shorter ones first, so that a zone finds the one that delegates to it.
        usort($origins, static fn (Name $a, Name $b): int => count($a->labels()) <=> count($b->labels()) ?: $a->compare($b));

        return $origins;
    }

    private function above(Name $origin, string $view): ?Zone
    {
        $parent = $origin->parent();

        return $parent === null ? null : Zones::closest($parent, $view);
    }

    private function nobodyAbove(Ledger $ledger, Name $origin): void
    {
        $net = ReverseName::prefixOf($origin);
        $child = str_contains($origin->labels()[0], '/');
        $ledger->later($child && $net !== null
            ? sprintf(
                'Whoever holds %s has to add the NS of %s and %d CNAMEs, such as %s → %s (RFC 2317 §4)',
                rtrim((string) $origin->parent(), '.'),
                rtrim((string) $origin, '.'),
                1 << 32 - $net->length,
                rtrim((string) ReverseName::of($net->first), '.'),
                rtrim((string) ReverseName::inZone($net->first, $origin), '.'),
            )
            : 'Whoever holds the zone above has to delegate '.rtrim(
                (string) $origin,
                '.',
            ).' to these servers, unless the addresses are private');
    }

    /** The zone above names the servers of the new one, and what stood there for it moves down. */
    private function delegate(Ledger $ledger, Zone $above, Zone $zone): void
    {
        $origin = $zone->origin();
        $net = ReverseName::prefixOf($origin);
        foreach (
            Record::query()->where('zone_id', $zone->id)->where('owner_key', $origin->sortKey())
                ->where('type', RecordType::NS)->get() as $ns
        ) {
            Records::add($ledger, $above, $origin, null, new Ns(Name::parse($ns->data)));
        }
        $moved = 0;
        $standing = $net !== null && str_contains($origin->labels()[0], '/')
            ? Record::query()->where('zone_id', $above->id)->where('type', RecordType::PTR)
                ->whereIn('owner', array_keys(self::owners($net)))->get()
            : Record::query()->where('zone_id', $above->id)->where('owner_key', '>', $origin->sortKey())
                ->where('owner_key', '<', $origin->sortKey()."\xff")->get();
        foreach ($standing as $record) {
            $address = ReverseName::addressOf(Name::parse($record->owner));
            $data = $record->toRecord($above->default_ttl)->data;
            Records::remove($record);
            Records::add(
                $ledger,
                $zone,
                $address === null ? Name::parse($record->owner) : ReverseName::inZone($address, $origin),
                $record->ttl,
                $data,
                $record->id,
                $record->address_id,
            );
            $moved++;
        }
        $moved === 0 ?: $ledger->passed('moved-down', "$moved records of {$above->title()} move down into {$zone->title()}");
        if ($net === null || ! str_contains($origin->labels()[0], '/')) {
            return;
        }
        foreach (self::owners($net) as $owner => $target) {
            Records::add($ledger, $above, Name::parse($owner), null, new Cname(Name::parse($target)));
        }
        $ledger->passed('rfc2317', "{$above->title()} delegates {$zone->title()} and points at it by CNAMEs", 'RFC 2317 §4');
    }

    /** @return array<string, string> name in the octet zone → name below the child, for every address */
    private static function owners(Prefix $net): array
    {
        $owners = [];
        for ($at = $net->first; $at !== null && $net->contains($at); $at = $at->next()) {
            $owners[(string) ReverseName::of($at)] = (string) ReverseName::inZone($at, ReverseName::classless($net));
        }

        return $owners;
    }

    /** PTRs for hosts of the plan that have a name and none yet. */
    private function point(Ledger $ledger, Prefix $net, string $view): void
    {
        $written = 0;
        $hosts = Host::query()->where('family', $net->family()->value)
            ->whereBetween('address', [$net->first->bytes, $net->last()->bytes])->where('name', '!=', '');
        foreach ($hosts->orderBy('address')->lazy(1000) as $host) {
            $place = Zones::pointer($host->address, $view);
            $name = Name::tryParse(rtrim($host->name, '.').'.');
            if (
                $place === null
                    || $name === null
                    || ! str_contains($host->name, '.')
                    || Record::query()->where('zone_id', $place[0]->id)->where('owner_key', $place[1]->sortKey())
                        ->where('type', RecordType::PTR)->exists()
            ) {
                continue;
            }
            Records::add($ledger, $place[0], $place[1], null, new Ptr($name), null, $host->id);
            $written++;
        }
        $written === 0 ?: $ledger->passed('pointers', "$written PTRs of placed hosts in $net", 'RFC 1912 §2.1');
    }
}
