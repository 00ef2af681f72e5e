<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** What the servers of pairs told of themselves, or why they could not be asked. */
final readonly class NotePairStates extends Act
{
    /** @param  list<array{pair: string, server: string, told: ?array<mixed>, problem: ?string}>  $states */
    public function __construct(public array $states)
    {
    }

    public function title(): string
    {
        return 'Note what the pairs are in';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $at = $ledger->at->format('Y-m-d H:i:s');
        foreach ($this->states as $one) {
            $state = $one['told']['state'] ?? null;
            // What an unreachable server was last in stays, with the cause beside it.
            $values = ['problem' => $one['problem'] === null ? null : mb_strimwidth($one['problem'], 0, 490, '…')];
            if ($one['problem'] === null) {
                $values += [
                    'read_at' => $at, 'state' => is_string($state) ? substr($state, 0, 30) : null,
                    'told' => $one['told'] === null ? null : json_encode($one['told'], JSON_INVALID_UTF8_SUBSTITUTE),
                ];
            }
            DB::table('pair_servers')->updateOrInsert(['pair_id' => $one['pair'], 'server_id' => $one['server']], $values);
        }
    }
}
