<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Lease;
use App\Models\Scope;
use App\Models\Server;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Exchange\V6\Held;
use HarborPost\Core\Net\Prefix;

/** What a server has leased in a scope of IPv6, as it was last read. */
final readonly class HeldV6 implements Held
{
    private function __construct(private string $scope, private string $server)
    {
    }

    public static function of(Scope $scope, Server $server): self
    {
        return new self($scope->id, $server->id);
    }

    public function holder(Prefix $net, int $now): ?string
    {
        $of = Lease::query()->where('server_id', $this->server)->whereNull('gone_at')->whereIn('state', ['active', 'declined'])
            ->where('ends_at', '>', gmdate('Y-m-d H:i:s', $now));
        $lease = (clone $of)->where('address', $net->first->bytes)->first();
        if ($lease === null) {
            // What is leased inside it, and what it is itself inside of.
            $lease = $net->length === 128
                ? null
                : (clone $of)->whereBetween('address', [$net->first->bytes, $net->last()->bytes])->whereRaw('LENGTH(address) = 16')
                    ->first();
            $lease ??= (clone $of)->where('length', '>', 0)->where('address', '<=', $net->first->bytes)->whereRaw('LENGTH(address) = 16')
                ->orderByDesc('address')->limit(1)->get()->first(static fn (Lease $l): bool => self::net($l)->contains($net));
        }

        return match (true) {
            $lease === null => null,
            $lease->state === 'declined' => '',
            default => self::key($lease),
        };
    }

    public function current(string $key, int $now): array
    {
        return array_values($this->ofKey($key)->filter(static fn (Lease $l): bool => $l->state === 'active' && $l->gone_at === null
            && $l->ends_at->getTimestamp() > $now)->map(self::net(...))->all());
    }

    public function last(string $key): ?Prefix
    {
        $last = $this->ofKey($key)->last();

        return $last === null ? null : self::net($last);
    }

    /** @return \Illuminate\Support\Collection<int, Lease> the latest one last */
    private function ofKey(string $key): \Illuminate\Support\Collection
    {
        [$duid, $kind, $iaid] = explode('/', $key) + ['', '', '0'];

        return Lease::query()->where('server_id', $this->server)->where('scope_id', $this->scope)
            ->where('client_id', (string) hex2bin($duid))
            ->where('iaid', (int) $iaid)->where('length', $kind === AssociationKind::Prefix->label() ? '>' : '=', 0)->orderBy('starts_at')
            ->get()->toBase();
    }

    private static function net(Lease $lease): Prefix
    {
        return $lease->address->in($lease->length ?: 128);
    }

    private static function key(Lease $lease): string
    {
        $client = Duid::tryFrom((string) $lease->client_id);
        $kind = $lease->length === 0 ? AssociationKind::Address : AssociationKind::Prefix;

        return $client === null ? '' : (new Association($kind, $lease->iaid ?? 0))->key($client);
    }
}
