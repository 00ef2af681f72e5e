<?php

declare(strict_types=1);

namespace App\Actions;

use App\Models\Person;
use App\Models\WriteGate;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;

/**
 * Runs acts: rehearsed in a transaction that is rolled back, or committed in one that is not. The only place where the gate
 * of the models is opened.
 */
final class Acts
{
    /** How often a lost race (duplicate key, deadlock, lock wait) is run again, each time as a new outermost transaction. */
    private const TRIES = 6;

    /** Seconds a rehearsal waits for somebody else's lock. */
    private const REHEARSAL_WAIT = 2;

    private const LOST_RACES = [1062, 1205, 1213, 1020, 1047, 1180];

    /**
     * Executes and rolls back: what is returned is what would have been written.
     *
     * @param  list<Action>  $acts
     * @param  list<array<string, int>>  $expects  for each act: "noun:id" → version
     */
    public function rehearse(?Person $person, array $acts, array $expects = []): Outcome
    {
        return $this->run($person, $acts, $expects, commit: false);
    }

    /**
     * @param  list<Action>  $acts
     * @param  list<array<string, int>>  $expects
     */
    public function commit(?Person $person, array $acts, array $expects = [], ?string $reason = null): Outcome
    {
        return $this->run($person, $acts, $expects, commit: true, reason: $reason);
    }

    /**
     * @param  list<Action>  $acts
     * @param  list<array<string, int>>  $expects
     */
    private function run(?Person $person, array $acts, array $expects, bool $commit, ?string $reason = null): Outcome
    {
        if (DB::transactionLevel() > 0 && ! app()->runningUnitTests()) {
            throw new \LogicException('Acts do not nest: an act inside a transaction could not be tried again.');
        }
        for ($try = 1; ; $try++) {
            try {
                return $this->once($person, $acts, $expects, $commit, $reason);
            } catch (QueryException $e) {
                $code = $e->errorInfo[1] ?? 0;
                if (! in_array($code, self::LOST_RACES, true)) {
                    throw $e;
                }
                if ($try >= self::TRIES || ! $commit && $try >= 2) {
                    return new Outcome([], false, $code === 1062
                        ? 'Somebody else wrote the same thing at the same moment. Nothing of yours was written; try again.'
                        : 'Somebody else is writing here right now. Nothing of yours was written; try again.');
                }
                usleep(random_int(500, 4000) * $try);
            }
        }
    }

    /**
     * @param  list<Action>  $acts
     * @param  list<array<string, int>>  $expects
     */
    private function once(?Person $person, array $acts, array $expects, bool $commit, ?string $reason): Outcome
    {
        $ledgers = [];
        if (! $commit) {
            DB::statement('SET SESSION innodb_lock_wait_timeout = '.self::REHEARSAL_WAIT);
        }
        DB::beginTransaction();
        try {
            $now = now()->toDateTimeImmutable();
            $stale = $this->stale($expects);
            foreach ($acts as $i => $act) {
                $ledger = new Ledger($person, $now, $reason);
                $ledger->action = $act::key();
                $ledgers[] = $ledger;
                if (isset($stale[$i])) {
                    $ledger->refuse('changed-meanwhile', $stale[$i], 'Somebody committed a change after this edit was made. Look at it, then make the edit again.');
                }
                if ($person !== null && ! $act->may($person)) {
                    $ledger->refuse('not-allowed', 'Not available to you', 'Your roles do not include this. A steward can change that.');
                }
                WriteGate::during($ledger, fn () => $act->apply($ledger));
            }
            if ($commit) {
                foreach ($ledgers as $ledger) {
                    $ledger->flushHistory();
                }
                DB::commit();
            } else {
                DB::rollBack();
            }

            return new Outcome($ledgers, $commit);
        } catch (Refused) {
            DB::rollBack();

            return new Outcome($ledgers, false);
        } catch (\Throwable $e) {
            DB::rollBack();
            throw $e;
        } finally {
            // What was read of settings inside the transaction may have been rolled back with it.
            app()->forgetInstance(\App\Queries\Inherited::class);
            if (! $commit) {
                DB::statement('SET SESSION innodb_lock_wait_timeout = DEFAULT');
            }
        }
    }

    /**
     * @param  list<array<string, int>>  $expects
     * @return array<int, string> act → what changed meanwhile
     */
    private function stale(array $expects): array
    {
        $stale = [];
        foreach ($expects as $i => $versions) {
            foreach ($versions as $object => $version) {
                [$noun, $id] = explode(':', $object, 2);
                $model = Nouns::find($noun, $id);
                if ($model === null || $model->version !== $version) {
                    $stale[$i] = $model === null ? "The $noun is gone" : "$noun {$model->line()} changed meanwhile";
                }
            }
        }

        return $stale;
    }
}
