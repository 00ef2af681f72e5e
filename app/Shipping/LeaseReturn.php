<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Acts;
use App\Acts\Lease\ReturnLeases;
use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Lease;
use App\Models\Person;
use App\Models\Server;
use App\Queries\LostLeases;
use HarborPost\Core\Dhcp\V6\Duid;

/** Gives a rebuilt server the leases back that it gave before, and writes down what it took. */
final readonly class LeaseReturn
{
    public const MOST = 2000;

    public function __construct(private Acts $acts)
    {
    }

    /**
     * @return array{back: int, kept: int} kept: addresses that the server has given to another client meanwhile
     *
     * @throws Unanswered
     */
    public function to(Server $server, Person $person, string $reason): array
    {
        $leases = LostLeases::of($server)->orderBy('leases.address')->limit(self::MOST)->get();
        $channel = new ControlChannel($server, (float) config('harbor.patience'));
        $back = [];
        $kept = 0;
        foreach ($leases->chunk(500) as $chunk) {
            $answer = $channel->ask('grant', ['leases' => $chunk->map(static fn (Lease $l): array => [
                'address' => (string) $l->address, 'mac' => (string) $l->mac, 'name' => $l->host_name,
                'client' => $l->client_id === null ? '' : (string) Duid::tryFrom($l->client_id), 'iaid' => $l->iaid,
                'length' => $l->length ?: $l->address->family->bits(), 'preferred' => $l->preferred_at?->getTimestamp(),
                'starts' => $l->starts_at->getTimestamp(), 'ends' => $l->ends_at->getTimestamp(), 'scope' => (string) $l->scope_id,
            ])->values()->all()]);
            $others = array_filter((array) ($answer['kept'] ?? []), is_string(...));
            $kept += count($others);
            array_push($back, ...$chunk->reject(static fn (Lease $l): bool => in_array((string) $l->address, $others, true))
                ->map(static fn (Lease $l): int => (int) $l->id)->values()->all());
        }
        if ($back !== []) {
            $this->acts->commit($person, [new ReturnLeases($back)], reason: $reason);
        }

        return ['back' => count($back), 'kept' => $kept];
    }
}
