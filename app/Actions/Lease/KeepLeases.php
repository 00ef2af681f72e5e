<?php

declare(strict_types=1);

namespace App\Actions\Lease;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Lease;
use App\Models\Person;
use App\Models\Role;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;

/** What a server says of its leases is written down; a row that is the same is not written again. */
final readonly class KeepLeases extends Action
{
    /** @param  list<array{address: string, mac: string, name: string, state: string, starts: int, ends: int, scope: string}>  $leases */
    public function __construct(public string $server, public array $leases)
    {
    }

    public function title(): string
    {
        return 'Read '.count($this->leases).' leases';
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Operator);
    }

    public function apply(Ledger $ledger): void
    {
        $rows = [];
        foreach ($this->leases as $one) {
            $mac = MacAddress::tryParse($one['mac']);
            if ($mac !== null && $one['state'] !== 'offered') {
                $rows[] = [
                    'server_id' => $this->server, 'scope_id' => $one['scope'], 'address' => Address::parse($one['address'])->bytes, 'mac' => $mac->bytes, 'host_name' => $one['name'],
                    'state' => $one['state'], 'starts_at' => gmdate('Y-m-d H:i:s', $one['starts']), 'ends_at' => gmdate('Y-m-d H:i:s', $one['ends']),
                ];
            }
        }
        foreach (array_chunk($rows, 500) as $chunk) {
            // Unchanged values make MariaDB skip the row: nothing is written for a lease that is as it was.
            Lease::query()->upsert($chunk, ['server_id', 'address'], ['scope_id', 'mac', 'host_name', 'state', 'starts_at', 'ends_at']);
        }
        $ledger->made['leases'] = count($rows);
    }
}
