<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Scopes;
use App\Models\Person;
use App\Models\Scope;
use App\Models\TransferKey;
use App\Models\Zone;
use App\Queries\NamingZones;
use HarborPost\Core\Dhcp\Names\LeaseName;
use HarborPost\Core\Dhcp\Names\LeaseNames;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Family;

/** Who writes the names of leases into the name service, into which zone, and as what; for one scope or for many. */
final readonly class NameLeases extends Act
{
    /** @param  list<string>  $scopes */
    public function __construct(
        #[Field(Kind::Ids, 'Scopes', of: Scope::class)]
        public array $scopes,
        #[Field(Kind::Choice, 'Who writes the names', choices: ['server', 'client', 'nobody'])]
        public string $who = 'server',
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone = '',
        #[Field(Kind::Id, 'Key', 'The key that signs the updates', of: TransferKey::class)]
        public string $key = '',
        #[Field(Kind::Choice, 'Name', choices: ['client', 'pattern'])]
        public string $from = 'client',
        #[Field(Kind::Line, 'Pattern', 'With {a} to {d} for the octets of the address, or {mac}', most: 63)]
        public string $pattern = '',
        #[Field(Kind::Line, 'TTL', most: 20)]
        public string $ttl = '10m',
    ) {
    }

    public function title(): string
    {
        return 'Name the leases of '.(count($this->scopes) === 1 ? 'a scope' : count($this->scopes).' scopes');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return count($this->scopes) === 1 ? at('lease.scope', $this->scopes[0]) : at('lease');
    }

    public function apply(Ledger $ledger): void
    {
        $scopes = Scopes::picked($ledger, $this->scopes, ['prefix']);
        $who = LeaseNames::from($this->who);
        $zone = $who === LeaseNames::Nobody ? null : $this->zone($ledger);
        $key = $zone === null ? null : $this->signer($ledger, $zone);
        $ttl = $this->ttl($ledger);
        foreach ($zone === null ? [] : $scopes->map(fn (Scope $s): Family => $s->family())->unique()->all() as $family) {
            $this->checkPattern($ledger, $family);
        }
        foreach ($scopes as $scope) {
            $scope->name_who = $zone === null ? null : $who;
            $scope->name_zone_id = $zone?->id;
            $scope->name_key_id = $key?->id;
            $scope->name_ttl = $zone === null ? null : $ttl;
            $scope->name_by_pattern = $zone !== null && $this->from === 'pattern';
            $scope->name_pattern = $zone === null ? '' : $this->pattern;
            if ($scope->isDirty()) {
                $scope->save();
            }
            $zone === null ?: $this->sayWhatLacks($ledger, $scope, $zone, $key, $ttl);
        }
        $ledger->later(
            'A client is named with its next lease or renewal after the shipment; names that are there go when their leases end',
        );
    }

    private function zone(Ledger $ledger): Zone
    {
        $zone = Zone::query()->with(['placements.server', 'view'])->find($this->zone)
            ?? $ledger->refuse('no-zone', 'Choose the zone into which the names are written', field: 'zone');
        if ($zone->isReverse()) {
            $ledger->refuse('no-zone', "{$zone->title()} is a reverse zone", 'Pointers follow from the addresses by themselves.', null,
                'zone');
        }
        if ($zone->primaryPlacement() === null) {
            $ledger->refuse(
                'no-primary',
                "{$zone->title()} has no primary server",
                'Updates go to the primary of a zone.',
                'RFC 2136 §1',
                'zone',
                at('name.zone.service', $zone->id),
            );
        }

        return $zone;
    }

    private function signer(Ledger $ledger, Zone $zone): ?TransferKey
    {
        $key = $this->key === '' ? null : TransferKey::query()->find($this->key)
            ?? $ledger->refuse('gone', 'The key is not there any more', field: 'key');
        if (! NamingZones::takes($zone, $key)) {
            $ledger->refuse(
                'zone-refuses-updates',
                $zone->update_mode === 'refused'
                    ? "{$zone->title()} takes no updates"
                    : "{$zone->title()} takes no updates by ".($key === null ? 'who has no key' : "the key {$key->title()}"),
                'Let the zone take updates by a key of the lease servers first.',
                'RFC 3007',
                'key',
                at('name.zone.service', $zone->id),
            );
        }
        if ($key === null) {
            $ledger->warn(
                'updates-unsigned',
                "The updates of {$zone->title()} are not signed",
                'Whoever can send from an address that it trusts can write names: choose a key.',
                'RFC 3007',
                'key',
            );
        }

        return $key;
    }

    private function ttl(Ledger $ledger): int
    {
        try {
            return Ttl::parse(trim($this->ttl))->seconds;
        } catch (Malformed $e) {
            $ledger->refuse('bad-ttl', $e->getMessage(), standard: $e->standard, field: 'ttl');
        }
    }

    private function checkPattern(Ledger $ledger, Family $family): void
    {
        if ($this->pattern === '' && $this->from === 'client') {
            return;
        }
        try {
            LeaseName::checkPattern($this->pattern, $family);
        } catch (Malformed $e) {
            $ledger->refuse('bad-pattern', $e->getMessage(), $family === Family::V6 ? 'For instance: crew-{h}'
                : 'For instance: crew-{c}-{d}', $e->standard, 'pattern');
        }
    }

    private function sayWhatLacks(Ledger $ledger, Scope $scope, Zone $zone, ?TransferKey $key, int $ttl): void
    {
        if ($ttl > intdiv($scope->lease_time, 3)) {
            $ledger->warn(
                'ttl-longer-than-lease',
                "Names of $scope->name live longer in caches than a third of a lease",
                'After a lease has ended, others are still told its address.',
                'RFC 4703 §5',
                'ttl',
                at('lease.scope', $scope->id),
            );
        }
        if (app(NamingZones::class)->reverse($scope, $zone, $key)->isEmpty()) {
            $ledger->warn(
                'no-reverse-zone',
                "No reverse zone of {$scope->prefix->prefix()} in this view takes the updates",
                'The names are written, and no address points back.',
                null,
                'zone',
                at('name.reverse'),
            );
        }
    }
}
