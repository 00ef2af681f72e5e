<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Lease;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Builder;

/** Leases as the servers told them when they were last read, filtered by words. */
final class LeaseList
{
    public const SORTS = [
        'address' => ['leases.address'],
        'mac' => ['leases.mac'],
        'name' => ['leases.host_name'],
        'since' => ['leases.starts_at'],
        'ends' => ['leases.ends_at'],
        'server' => ['leases.server_id', 'leases.address'],
    ];

    /** What a filter understands, with what it means. */
    public const WORDS = [
        'state:active' => 'runs now', 'state:expired' => 'ran out', 'state:released' => 'given back by the client',
        'state:declined' => 'found in use by the client', 'state:gone' => 'the server has it no more', 'state:any' => 'whatever state',
        'ends:2h' => 'ends within two hours', 'server:' => 'name of a server', 'scope:' => 'start of a scope\'s name',
    ];

    /** @var list<string> */
    public array $misread = [];

    /** @var list<string> */
    private array $states = [];

    public function __construct(private readonly Reach $reach, private readonly string $filter, private readonly ?string $scope = null)
    {
    }

    /** @return Listing<Lease> */
    public function page(string $sort, int $page): Listing
    {
        return Listing::of($this->query()->with('server'), self::SORTS, $sort, $page, 'leases.id');
    }

    /** @return Builder<Lease> those that the filter leaves, as far as the person may see them */
    public function query(): Builder
    {
        $this->states = $this->misread = [];
        $query = Lease::query();
        if (! $this->reach->isWhole()) {
            $query->whereIn('leases.scope_id', $this->reach->scopes()->select('scopes.id'));
        }
        if ($this->scope !== null) {
            $query->where('leases.scope_id', $this->scope);
        }
        $words = new FilterWords($this->filter);
        foreach ($words->words as [$key, $value, $word]) {
            if ($key === null) {
                self::word($query, $value);

                continue;
            }
            $understood = $this->keyed($query, $key, $value);
            if ($understood !== null) {
                $words->misread($word, $understood);
                $query->whereRaw('1 = 0');
            }
        }
        $this->misread = $words->misread;

        return $this->inStates($query);
    }

    /**
     * An address, prefix or range, a MAC or the start of one, or the start of a client's name.
     *
     * @param  Builder<Lease>  $query
     */
    private static function word(Builder $query, string $value): void
    {
        $range = Address::tryParse($value) !== null || preg_match('/\A[\d.:a-f]+[\/-][\d.:a-f]+\z/i', $value) === 1
            ? (AddressRange::tryParse($value) ?? self::net($value))
            : null;
        $digits = str_replace([':', '-', '.'], '', $value);
        if ($range !== null) {
            $query->whereBetween('leases.address', [$range->first->bytes, $range->last->bytes])
                ->whereRaw('LENGTH(leases.address) = ?', [strlen($range->first->bytes)]);
        } elseif (preg_match('/\A[0-9a-f]{2}(?:[:-][0-9a-f]{2}){6,}\z/i', $value) === 1) {
            $query->where('leases.client_id', Duid::tryParse($value)->bytes ?? '');
        } elseif (MacAddress::tryParse($value) !== null) {
            $query->where('leases.mac', MacAddress::parse($value)->bytes);
        } elseif (preg_match('/\A[0-9a-f]{2}(?:[:-][0-9a-f]{2}){1,4}\z/i', $value) === 1) {
            $start = (string) hex2bin($digits);
            $query->whereBetween('leases.mac', [str_pad($start, 6, "\0"), str_pad($start, 6, "\xff")]);
        } else {
            $query->where('leases.host_name', 'like', FilterWords::start($value));
        }
    }

    /**
     * @param  Builder<Lease>  $query
     * @return ?string what was expected, when it is not understood
     */
    private function keyed(Builder $query, string $key, string $value): ?string
    {
        return match ($key) {
            'state' => $this->state($value),
            'ends' => self::ends($query, $value),
            'server' => self::server($query, $value),
            'scope' => self::among($query, $this->reach, $value),
            default => 'there are state:, ends:, server:, scope:, and addresses, MACs, DUIDs and names as they are',
        };
    }

    private function state(string $value): ?string
    {
        if (! in_array($value, ['active', 'expired', 'released', 'declined', 'gone', 'any'], true)) {
            return 'states are active, expired, released, declined, gone and any';
        }
        $this->states[] = $value;

        return null;
    }

    /** @param  Builder<Lease>  $query */
    private static function ends(Builder $query, string $value): ?string
    {
        try {
            $query->where('leases.ends_at', '<=', now()->addSeconds(Ttl::parse($value)->seconds));
        } catch (Malformed) {
            return 'a time is meant, as 90m, 2h or 1d';
        }

        return null;
    }

    /** @param  Builder<Lease>  $query */
    private static function server(Builder $query, string $value): ?string
    {
        $ids = Server::query()->where('kind', ServerKind::Dhcp)->where('name', 'like', FilterWords::start($value))->pluck('id');
        $query->whereIn('leases.server_id', $ids);

        return $ids->isEmpty() ? 'no DHCP server is called so' : null;
    }

    /** @param  Builder<Lease>  $query */
    private static function among(Builder $query, Reach $reach, string $value): ?string
    {
        $scopes = $reach->scopes()->where('scopes.name', 'like', FilterWords::start($value));
        $query->whereIn('leases.scope_id', (clone $scopes)->select('scopes.id'));

        return $scopes->exists() ? null : 'no scope is called so';
    }

    /**
     * @param  Builder<Lease>  $query
     * @return Builder<Lease>
     */
    private function inStates(Builder $query): Builder
    {
        $states = $this->states === [] ? ['active'] : $this->states;
        if (in_array('any', $states, true)) {
            return $query;
        }

        return $query->where(function (Builder $any) use ($states): void {
            foreach ($states as $state) {
                $any->orWhere(fn (Builder $q) => match ($state) {
                    'active' => InUse::active($q),
                    'expired' => $q->whereNull('leases.gone_at')
                        ->where(fn (Builder $w) => $w->where('leases.state', 'expired')
                            ->orWhere(fn (Builder $a) => $a->where('leases.state', 'active')->where('leases.ends_at', '<=', now()))),
                    'gone' => $q->whereNotNull('leases.gone_at'),
                    default => $q->where('leases.state', $state)->whereNull('leases.gone_at'),
                });
            }
        });
    }

    private static function net(string $value): ?AddressRange
    {
        $net = Net::tryParse($value);

        return $net === null ? null : AddressRange::of($net->first, $net->last());
    }
}
