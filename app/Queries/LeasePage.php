<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Host;
use App\Models\Lease;
use App\Models\Record;
use App\Models\Reservation;
use App\Models\Scope;
use Carbon\CarbonImmutable;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\DB;

/**
 * One lease: whose it is and until when, who had the address before, and what else is known of address and client.
 *
 * @phpstan-type Binding array{client: string, name: string, state: string, server: string, from: CarbonImmutable, until: CarbonImmutable}
 */
final readonly class LeasePage
{
    private const LISTED = 50;

    private function __construct(
        public Lease $lease,
        public ?Scope $scope,
        public ?Host $host,
        public ?Reservation $reservation,
        /** @var list<Binding> */
        public array $before,
        /** @var list<Lease> leases of the same client elsewhere */
        public array $elsewhere,
        /** @var list<Record> */
        public array $names,
    ) {
    }

    public static function of(Reach $reach, Lease $lease): self
    {
        $scope = $reach->scopes()->with('prefix')->find($lease->scope_id);
        $whole = $reach->isWhole();
        $mine = static fn ($q) => $whole ? $q : $q->whereIn('leases.scope_id', $reach->scopes()->select('scopes.id'));
        $elsewhere = $lease->mac === null && $lease->client_id === null
            ? []
            : $mine(
                Lease::query()->with('server')->whereKeyNot($lease->id)
                    ->when($lease->client_id, fn ($q, $id) => $q->where('client_id', $id),
                        fn ($q) => $q->where('mac', $lease->mac?->bytes)),
            )->orderByDesc('ends_at')->limit(self::LISTED)->get()->all();
        $names = $reach->records()->with('zone.view')->whereIn('type', [RecordType::A, RecordType::AAAA])
            ->where('data_hash', md5($lease->address->bytes, true))->limit(self::LISTED)->get()->all();

        return new self(
            $lease,
            $scope,
            $scope === null ? null : Host::query()->where('prefix_id', $scope->prefix_id)->where('address', $lease->address->bytes)
                ->first(),
            $scope === null ? null : Reservation::query()->where('scope_id', $scope->id)->where('address', $lease->address->bytes)->first(),
            self::before($lease),
            array_values($elsewhere),
            array_values($names),
        );
    }

    /** When the client asks its server again: half of the time (RFC 2131 §4.4.5), of its preferred part in IPv6 (RFC 8415 §21.4). */
    public function t1(): CarbonImmutable
    {
        return $this->renewed()->addSeconds(intdiv($this->preferred(), 2));
    }

    /** When it asks any server: seven eighths of the time, in IPv6 four fifths of its preferred part. */
    public function t2(): CarbonImmutable
    {
        $six = $this->lease->address->family === Family::V6;

        return $this->renewed()->addSeconds($six ? intdiv($this->preferred() * 4, 5) : intdiv($this->seconds() * 7, 8));
    }

    /** How far the time of the lease has run, from 0 to 1. */
    public function share(CarbonImmutable $at): float
    {
        $all = max(1, $this->seconds());

        return max(0.0, min(1.0, ($at->getTimestamp() - $this->renewed()->getTimestamp()) / $all));
    }

    /** When it was last renewed: its start tells when the binding began, its end when the last renewal was. */
    private function renewed(): CarbonImmutable
    {
        return $this->lease->ends_at->subSeconds($this->seconds());
    }

    private function preferred(): int
    {
        $until = $this->lease->preferred_at;

        return $until === null ? $this->seconds() : max(0, $until->getTimestamp() - $this->renewed()->getTimestamp());
    }

    private function seconds(): int
    {
        $whole = max(0, $this->lease->ends_at->getTimestamp() - $this->lease->starts_at->getTimestamp());

        return $this->scope === null ? $whole : min($whole, $this->scope->lease_time);
    }

    /** @return list<Binding> */
    private static function before(Lease $lease): array
    {
        return array_values(
            DB::table('lease_bindings')->join('servers', 'servers.id', '=', 'lease_bindings.server_id')
                ->where('lease_bindings.address', $lease->address->bytes)->orderByDesc('lease_bindings.id')->limit(self::LISTED)
                ->get(['lease_bindings.*', 'servers.name as server'])
                ->map(static fn (\stdClass $row): array => [
                    'client' => self::client($row),
                    'name' => (string) $row->host_name, 'state' => (string) $row->state, 'server' => (string) $row->server,
                    'from' => CarbonImmutable::parse((string) $row->starts_at), 'until' => CarbonImmutable::parse((string) $row->until_at),
                ])->all(),
        );
    }

    private static function client(\stdClass $row): string
    {
        return match (true) {
            $row->mac !== null => (string) MacAddress::fromBytes((string) $row->mac),
            $row->client_id !== null => (string) Duid::tryFrom((string) $row->client_id),
            default => 'nobody',
        };
    }
}
