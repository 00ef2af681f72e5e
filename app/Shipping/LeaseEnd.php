<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Engine\Acts;
use App\Acts\Lease\EndLeases;
use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Lease;
use App\Models\Person;
use App\Models\Server;
use HarborPost\Core\Dhcp\V6\Duid;
use Illuminate\Support\Collection;

/** Ends leases on the servers that gave them, server by server, and writes down what each says it ended. */
final readonly class LeaseEnd
{
    public function __construct(private Acts $acts)
    {
    }

    /**
     * @param  Collection<int, Lease>  $leases
     * @return array{ended: int, left: list<string>} left: those that go on, with the reason
     */
    public function of(Collection $leases, Person $person, string $reason): array
    {
        $ended = 0;
        $left = [];
        foreach ($leases->groupBy('server_id') as $id => $own) {
            $server = Server::query()->findOrFail($id);
            try {
                $answer = (new ControlChannel($server, (float) config('harbor.patience')))->ask('end', [
                    'leases' => $own->map(fn (Lease $l): array => [
                        'address' => (string) $l->address, 'mac' => (string) $l->mac,
                        'client' => $l->client_id === null ? '' : (string) Duid::tryFrom($l->client_id),
                        'length' => $l->length ?: $l->address->family->bits(),
                    ])->values()->all(),
                ], once: true);
            } catch (Unanswered $e) {
                $left[] = "{$e->getMessage()}; whether it ended any is not known until its leases are read again";

                continue;
            }
            $done = $own->filter(fn (Lease $l): bool => in_array((string) $l->address, (array) ($answer['ended'] ?? []), true));
            if ($done->isNotEmpty()) {
                $this->acts->commit(
                    $person,
                    [new EndLeases(array_values($done->map(fn (Lease $l): int => (int) $l->id)->all()))],
                    reason: $reason,
                );
            }
            $ended += $done->count();
            foreach ((array) ($answer['kept'] ?? []) as $address) {
                $left[] = (is_string($address) ? $address : '?')." is another client's by now, or has ended";
            }
        }

        return ['ended' => $ended, 'left' => $left];
    }
}
