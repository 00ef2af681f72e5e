<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Reservations;
use App\Domain\Lease\ReservationsV6;
use App\Models\Ability;
use App\Models\Lease;
use App\Models\Person;
use App\Models\Reservation;
use App\Models\Scope;
use App\Queries\Granted;
use App\Queries\InUse;
use App\Queries\Reach;
use HarborPost\Core\Dhcp\Client\ClientKey;
use HarborPost\Core\Dhcp\V6\Client;

/** Clients keep the addresses that they have leased now: each lease becomes a reservation. */
final readonly class ReserveLeases extends Act
{
    /** @param  list<string>  $leases */
    public function __construct(
        #[Field(Kind::Texts, 'Leases', most: 20)]
        public array $leases,
    ) {
    }

    public function title(): string
    {
        return 'Reserve '.count($this->leases).(count($this->leases) === 1 ? ' lease' : ' leases');
    }

    public static function may(Person $person): bool
    {
        return Granted::works($person, Ability::Leases);
    }

    public function landing(): string
    {
        return at('lease.leases');
    }

    public function apply(Ledger $ledger): void
    {
        $scopes = ($ledger->person === null ? Scope::query() : Reach::of($ledger->person)->scopes())->with('prefix')
            ->whereIn('scopes.id', InUse::activeLeases()->whereKey($this->leases)->select('scope_id'))->get()->keyBy('id');
        $leases = InUse::activeLeases()->whereKey($this->leases)->whereIn('scope_id', $scopes->keys())->orderBy('address')->get();
        if ($leases->isEmpty()) {
            $ledger->refuse(
                'nothing-picked',
                'None of these leases runs any more, or they are not available to you',
                'Pick leases that run.',
            );
        }
        $left = count(array_unique($this->leases)) - $leases->count();
        if ($left > 0) {
            $ledger->warn('lease-ended', "$left of them have ended, or are not available to you", 'They are left out.');
        }
        $same = [];
        foreach ($leases as $lease) {
            $scope = $scopes[$lease->scope_id] ?? null;
            $same[] = $scope === null || $this->reserve($ledger, $scope, $lease) ? null : (string) $lease->address;
        }
        $same = array_filter($same);
        if ($same !== []) {
            $ledger->warn('lease-same', count($same).' are reserved already: '.implode(', ', array_slice($same, 0, 6)));
        }
    }

    /** @return bool false: it was reserved for this very client already */
    private function reserve(Ledger $ledger, Scope $scope, Lease $lease): bool
    {
        if ($scope->prefix->family === 6 && $lease->client_id !== null) {
            return $this->reserveV6($ledger, $scope, $lease, $lease->client_id);
        }
        if ($lease->mac === null) {
            $ledger->refuse('no-mac', "The lease of $lease->address has no client", 'It was declined: something else uses the address.');
        }
        $has = Reservation::query()->where('scope_id', $scope->id)->where('address', $lease->address->bytes)
            ->where('mac', $lease->mac->bytes)->exists();
        if ($has) {
            return false;
        }
        Reservations::write($ledger, $scope, $lease->address, ClientKey::ofMac($lease->mac), strtolower($lease->host_name), null);

        return true;
    }

    private function reserveV6(Ledger $ledger, Scope $scope, Lease $lease, string $duid): bool
    {
        $client = Client::of($duid, $lease->iaid ?? -1) ?? $ledger->refuse('no-mac', "The lease of {$lease->given()} has no client");
        $has = Reservation::query()->where('scope_id', $scope->id)->where('address', $lease->address->bytes)
            ->where('client_id', $duid)->where('length', $lease->length)->exists();
        if (! $has) {
            $net = $lease->address->in($lease->length ?: 128);
            ReservationsV6::write($ledger, $scope, $net, $client, strtolower($lease->host_name));
        }

        return ! $has;
    }
}
