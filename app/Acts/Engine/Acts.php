<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Database\Contention;
use App\Database\Guard;
use App\Database\SoundConnection;
use App\Database\TransactionLost;
use App\Models\ChangedMeanwhile;
use App\Models\Nouns;
use App\Models\Person;
use App\Models\WriteGate;
use App\Pages\Pages;
use App\Queries\Granted;
use App\Queries\Inherited;
use App\Queries\OptionLayers;
use App\Queries\OwnOptions;
use App\Queries\Reach;
use App\Queries\RoleLimits;
use App\Queries\SharedLinks;
use Illuminate\Support\Facades\DB;

/**
 * Runs acts: rehearsed in a transaction that is rolled back, or committed in one that is not. The only place where the gate
 * of the models is opened.
 *
 * A lost race is run again as a whole, as a new outermost transaction on a sound connection, until the patience ends; so is an act whose
 * database went away before it was to commit, where another node takes over. An act whose commit got no answer is settled by its
 * number, never repeated blindly.
 */
final class Acts
{
    /** By which program and request acts come, for the history; set at the door. */
    public ?string $via = null;

    private const NOT_WRITTEN = 'The database went away before it was written. Nothing of yours was written; try again.';

    /** How often a key that stands in the way is tried again: when it stays there, it is no race. */
    private const COLLISIONS = 8;

    /**
     * Executes and rolls back: what is returned is what would have been written.
     *
     * @param  list<Act>  $acts
     * @param  list<array<string, int>>  $expects  for each act: "noun:id" → version
     */
    public function rehearse(?Person $person, array $acts, array $expects = []): Outcome
    {
        return $this->run(new Attempt($person, $acts, $expects, commit: false));
    }

    /**
     * @param  list<Act>  $acts
     * @param  list<array<string, int>>  $expects
     * @param  bool  $asShown  each act writes only rows that were there when it was shown, in the versions that $expects names
     * @param  ?string  $shown  Outcome::digest() of what was shown; other writes by now end the attempt
     */
    public function commit(
        ?Person $person,
        array $acts,
        array $expects = [],
        ?string $reason = null,
        bool $asShown = false,
        ?string $shown = null,
        bool $emergency = false,
        ?Witness $witness = null,
    ): Outcome {
        return $this->run(
            new Attempt(
                $person, $acts, $expects, commit: true, reason: $reason, asShown: $asShown, shown: $shown, emergency: $emergency,
                witness: $witness,
            ),
        );
    }

    private function run(Attempt $attempt): Outcome
    {
        if (DB::transactionLevel() > 0 && ! app()->runningUnitTests()) {
            throw new \LogicException('Acts do not nest: an act inside a transaction could not be tried again.');
        }
        $until = microtime(true) + (float) config('harbor.acts.patience');
        $away = microtime(true) + (float) config('harbor.acts.take_over');
        for ($try = 1; ; $try++) {
            try {
                return $this->once($attempt);
            } catch (OutcomeUnknown $e) {
                $settled = $this->settle($e);
                if ($settled->trouble !== self::NOT_WRITTEN || microtime(true) >= $away) {
                    return $settled;
                }
                $attempt = $attempt->anew();
            } catch (ChangedMeanwhile|\PDOException $e) {
                if ($e instanceof \PDOException && Contention::isAway($e) && microtime(true) < $away) {
                    // Not at its commit, so nothing was written: another node may have taken over by the next try.
                    DB::disconnect();
                    usleep(250_000);

                    continue;
                }
                if ($e instanceof \PDOException && ! Contention::isLost($e)) {
                    throw $e;
                }
                $stays = $e instanceof \PDOException && Contention::isCollision($e) && $try >= self::COLLISIONS;
                if ($stays || microtime(true) >= $until) {
                    return new Outcome([], false, $stays
                        ? 'Somebody else wrote the same thing at the same moment, or what it hangs on is gone. Nothing of yours '
                            .'was written; look again, then try again.'
                        : 'Somebody else is writing here right now. Nothing of yours was written; try again.');
                }
                usleep(random_int(500, min(150_000, 2_000 * 2 ** min($try, 7))));
            }
        }
    }

    private function once(Attempt $attempt): Outcome
    {
        $ledgers = [];
        $level = DB::transactionLevel();
        if (! $attempt->commit) {
            DB::statement('SET SESSION innodb_lock_wait_timeout = '.(int) config('harbor.acts.rehearsal_wait'));
        }
        try {
            DB::beginTransaction();
            foreach ($attempt->commit ? $attempt->acts : [] as $act) {
                // Who commits the same draft at this moment waits here, before both take addresses that neither was shown.
                $act->ofDraft() === null ?: Guard::own('draft-of:'.$act->ofDraft());
            }
            $now = now()->toDateTimeImmutable();
            $earlier = [];
            foreach ($attempt->acts as $i => $act) {
                $person = $attempt->person === null ? null : RoleLimits::narrow($attempt->person, $act::power());
                $ledger = new Ledger($person, $now, $attempt->reason, $attempt->ids[$i]);
                $ledger->action = $act::key();
                $ledger->via = $this->via;
                $ledgers[] = $ledger;
                $this->carryOut($attempt, $act, $ledger, $attempt->expects[$i] ?? [], $earlier);
            }
            $attempt->person === null ?: TeamRules::ask($ledgers);
            $stands = $this->inTheWay($attempt, $ledgers);
            if ($stands !== null) {
                $this->back($level);

                return $stands;
            }
            foreach ($ledgers as $ledger) {
                $ledger->flushHistory();
                Outbox::put($ledger);
            }
            $attempt->commit && $ledgers !== [] && self::number($attempt);
            $attempt->witness?->of(new Outcome($ledgers, true));
            $this->conclude($attempt, $ledgers);

            return new Outcome($ledgers, true);
        } catch (Refused $e) {
            // The refusal of a transaction that was already lost may rest on what was never true.
            $lost = ! $this->isSound($level);
            $this->back($level);
            if ($lost) {
                throw new TransactionLost;
            }

            return new Outcome($ledgers, false);
        } catch (\Throwable $e) {
            $this->back($level);
            throw $e;
        } finally {
            // What was read of settings inside the transaction may have been rolled back with it.
            app()->forgetInstance(Granted::class);
            app()->forgetInstance(RoleLimits::class);
            app()->forgetInstance(Inherited::class);
            app()->forgetInstance(OptionLayers::class);
            app()->forgetInstance(SharedLinks::class);
            app()->forgetInstance(OwnOptions::class);
            $attempt->commit || rescue(fn () => DB::statement('SET SESSION innodb_lock_wait_timeout = DEFAULT'), report: false);
        }
    }

    /**
     * Why what was carried out is taken back, when nothing refused it; null where it is to be written.
     *
     * @param  list<Ledger>  $ledgers
     */
    private function inTheWay(Attempt $attempt, array $ledgers): ?Outcome
    {
        $needs = Agreement::needed($attempt, $ledgers);
        if (! $attempt->commit) {
            return new Outcome($ledgers, false, needs: $needs);
        }
        $missing = Agreement::missing($attempt, $needs);
        $shown = $attempt->shown === null || hash_equals($attempt->shown, (new Outcome($ledgers, false))->digest());

        return match (true) {
            $missing !== null => new Outcome($ledgers, false, $missing, needs: $needs),
            ! $shown => new Outcome(
                $ledgers, false,
                'What would be written is no longer what was shown: somebody changed it meanwhile. Nothing was written.',
                stale: true,
            ),
            $attempt->person !== null && $this->unexplained($ledgers, $attempt->reason) => new Outcome(
                $ledgers, false, 'There are warnings: say why you want it all the same. The reason is kept in the history.',
                wantsReason: true,
            ),
            default => null,
        };
    }

    /**
     * @param  array<string, int>  $expects
     * @param  array<string, true>  $earlier  objects written by the acts before it
     */
    private function carryOut(Attempt $attempt, Act $act, Ledger $ledger, array $expects, array &$earlier): void
    {
        $person = $ledger->person;
        if ($person !== null && ! $act::may($person)) {
            $ledger->refuse('not-allowed', 'Not available to you', 'Your roles do not include this. A steward can change that.');
        }
        $this->compareVersions($attempt, $ledger, $expects);
        Inputs::objectsInReach($ledger, $act);
        WriteGate::during($ledger, static fn () => self::perform($act, $ledger));
        foreach ($ledger->written as $written) {
            $object = "$written->noun:$written->id";
            if (
                $attempt->asShown
                    && $written->versionBefore !== null
                    && ! isset($expects[$object])
                    && ! isset($earlier[$object])
                    && Nouns::classOf($written->noun) !== null
            ) {
                $ledger->refuse(
                    'changed-meanwhile',
                    "$written->noun $written->line was not there when this edit was made",
                    'Somebody committed a change after that. Look at it, then make the edit again.',
                );
            }
        }
        foreach ($ledger->written as $written) {
            $earlier["$written->noun:$written->id"] = true;
        }
    }

    private static function perform(Act $act, Ledger $ledger): void
    {
        $act->apply($ledger);
        foreach ($act instanceof OfParts ? $act->parts($ledger) : [] as $where => $part) {
            try {
                $part->apply($ledger);
            } catch (Refused $e) {
                $where === '' ? throw $e : $ledger->refuse('line', "$where: {$e->note->message}", $e->note->why);
            }
        }
    }

    /**
     * Rows that the edit relies on, by the version it saw. They are locked, so that nobody changes them between this and the writing. Of a
     * row out of the person's reach nothing is told, not even whether it is there.
     *
     * @param  array<string, int>  $expects
     */
    private function compareVersions(Attempt $attempt, Ledger $ledger, array $expects): void
    {
        ksort($expects);
        $changed = null;
        foreach ($expects as $object => $version) {
            [$noun, $id] = explode(':', $object, 2) + [1 => ''];
            $rows = $attempt->person === null ? Nouns::query($noun) : Reach::of($attempt->person)->ofNoun($noun);
            $row = $rows === null ? null : ($attempt->commit ? $rows->lockForUpdate()->find($id) : $rows->find($id));
            if ($row === null) {
                $ledger->refuse(
                    'changed-meanwhile',
                    "Something this edit relies on ($noun) is gone or not available to you",
                    'Look again, then make the edit again.',
                );
            }
            if ($row->version !== $version) {
                $changed = new Note(
                    NoteVerdict::Blocked, 'changed-meanwhile', "$noun {$row->line()} changed meanwhile",
                    'Somebody committed a change after this edit was made.',
                    link: Pages::of($row), changed: [$object => $row->version],
                );
                $ledger->notes[] = $changed;
            }
        }
        if ($changed !== null) {
            throw new Refused($changed);
        }
    }

    /** @param  list<Ledger>  $ledgers */
    private function unexplained(array $ledgers, ?string $reason): bool
    {
        if (trim((string) $reason) !== '') {
            return false;
        }
        foreach ($ledgers as $ledger) {
            foreach ($ledger->notes as $note) {
                if ($note->warns()) {
                    return true;
                }
            }
        }

        return false;
    }

    /** @param  list<Ledger>  $ledgers */
    private function conclude(Attempt $attempt, array $ledgers): void
    {
        try {
            DB::commit();
        } catch (\Throwable $e) {
            if (Contention::isAway($e)) {
                throw new OutcomeUnknown($attempt, $ledgers, $e);
            }
            throw $e;
        }
    }

    /** The one way back: whatever the database does, the connection is outside the transaction and sound afterwards. */
    private function back(int $level): void
    {
        try {
            DB::rollBack($level);
            if (DB::transactionLevel() === $level) {
                return;
            }
        } catch (\Throwable) {
            // What cannot be rolled back is left behind with its connection.
        }
        $connection = DB::connection();
        if ($connection instanceof SoundConnection && $level === 0) {
            $connection->abandon();
        }
    }

    private function isSound(int $level): bool
    {
        $connection = DB::connection();
        if (! $connection instanceof SoundConnection || $level > 0) {
            return true;
        }
        try {
            DB::scalar('SELECT 1');

            return $connection->isSound();
        } catch (\Throwable) {
            return false;
        }
    }

    /**
     * The database went away while it was asked to commit. Its number is taken away: where that goes, it was not written and never will be,
     * even if its transaction still stands on a node that nobody reaches; where it does not go, it was.
     */
    private function settle(OutcomeUnknown $unknown): Outcome
    {
        $wrote = array_filter($unknown->ledgers, static fn (Ledger $l): bool => $l->written !== [] || $l->bulk > 0);
        $mark = bin2hex(random_bytes(8));
        $wait = max((float) config('harbor.acts.take_over'), 2 * (float) config('harbor.acts.patience'));
        for ($until = microtime(true) + $wait; $wrote !== [] && microtime(true) < $until; usleep(200_000)) {
            try {
                DB::table('attempts')->insertOrIgnore(['id' => $unknown->attempt->ids[0], 'taken' => $mark, 'at' => now()]);
                // The answer to this may have been lost as well, and it was sent again: what stands there says whose it is.
                $taken = DB::table('attempts')->useWritePdo()->where('id', $unknown->attempt->ids[0])->value('taken');

                return $taken === $mark ? new Outcome([], false, self::NOT_WRITTEN) : new Outcome($unknown->ledgers, true);
            } catch (\Throwable) {
                // Still away, or the other has not ended yet.
            }
        }

        return new Outcome(
            [],
            false,
            'The database went away at the last moment: it is not known whether this was written. Look in the history before '
                .'you do it again.',
        );
    }

    private static function number(Attempt $attempt): void
    {
        DB::table('attempts')->insert(['id' => $attempt->ids[0], 'at' => now()]);
    }
}
