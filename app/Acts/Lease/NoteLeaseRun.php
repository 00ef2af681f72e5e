<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** How the latest reading of a server's leases went: what it did, or why it could not be done. */
final readonly class NoteLeaseRun extends Act
{
    /**
     * @param  array{added?: int, changed?: int, same?: int, gone?: int, refused?: list<string>}  $log
     * @param  ?array{cursor: string, plan: string, whole: bool}  $mark  where the next reading goes on
     */
    public function __construct(public string $server, public array $log, public ?string $problem = null, public ?array $mark = null)
    {
    }

    public function title(): string
    {
        return 'Note a reading of leases';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        $refused = array_slice($this->log['refused'] ?? [], 0, 50);
        $values = [
            'leases_problem' => $this->problem === null ? null : mb_strimwidth($this->problem, 0, 490, '…'),
            'leases_log' => json_encode(['refused' => $refused] + $this->log, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE),
        ];
        if ($this->problem === null) {
            $values += [
                'leases_read_at' => $ledger->at->format('Y-m-d H:i:s'),
                'leases' => DB::table('leases')->where('server_id', $this->server)->whereNull('gone_at')->count(),
            ];
            // A reading that failed leaves the mark: what it read is read again, and is the same then.
            $values['leases_cursor'] = $this->mark['cursor'] ?? null;
            if ($this->mark['whole'] ?? false) {
                $values += ['leases_plan' => $this->mark['plan'], 'leases_whole_at' => $ledger->at->format('Y-m-d H:i:s')];
            }
        }
        DB::table('server_states')->updateOrInsert(['server_id' => $this->server], $values);
    }
}
