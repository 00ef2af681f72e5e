<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\MariaDbConnection;
use Illuminate\Database\QueryException;

/**
 * A connection that never goes on after its transaction ended unsaid. A server of a cluster may abort a transaction for another
 * node's sake; what follows would be written piece by piece, each statement for itself.
 */
final class SoundConnection extends MariaDbConnection
{
    private const ATTEMPTS = 5;

    /** Microseconds between two tries. */
    private const PAUSE = 150_000;

    /** Whether the server still holds the transaction that we believe to be in. */
    public function isSound(): bool
    {
        return $this->transactions === 0 || $this->pdo instanceof \PDO && $this->pdo->inTransaction();
    }

    /** Gives the connection up with whatever it had begun: the next statement opens a new one, outside any transaction. */
    public function abandon(): void
    {
        $this->transactions = 0;
        $this->transactionsManager?->rollback($this->getName() ?? '', 0);
        $this->disconnect();
    }

    /**
     * What stands in one transaction is begun anew when others come first, on one node or from another, and when the node goes away in the
     * middle of it.
     *
     * @param  int<1, max>  $attempts
     */
    public function transaction(\Closure $callback, $attempts = self::ATTEMPTS)
    {
        $until = microtime(true) + $this->takeOver();
        for ($outermost = $this->transactions === 0; ; usleep(self::PAUSE)) {
            $done = false;
            try {
                return parent::transaction(static function (self $connection) use ($callback, &$done): mixed {
                    $result = $callback($connection);
                    $done = true;

                    return $result;
                }, $attempts);
            } catch (\Throwable $e) {
                // Before its commit nothing was written: another node may have taken over by the next try.
                if ($done || ! $outermost || ! Contention::isAway($e) || microtime(true) >= $until) {
                    throw $e;
                }
                $this->abandon();
            }
        }
    }

    /**
     * A node that has left its cluster answers no question any more, and one that does not learn what was written meanwhile gives up:
     * another one does.
     */
    protected function causedByLostConnection(\Throwable $e)
    {
        return parent::causedByLostConnection($e) || Contention::isNotReady($e)
            || $this->transactions === 0 && $this->takeOver() > 0 && Contention::waited($e);
    }

    /**
     * Outside a transaction, until another node has taken over; where there is none, once.
     *
     * @param  string  $query
     * @param  array<mixed>  $bindings
     */
    protected function tryAgainIfCausedByLostConnection(QueryException $e, $query, $bindings, \Closure $callback)
    {
        for ($until = microtime(true) + $this->takeOver(); ; usleep(self::PAUSE)) {
            try {
                return parent::tryAgainIfCausedByLostConnection($e, $query, $bindings, $callback);
            } catch (QueryException $again) {
                if (microtime(true) >= $until || ! $this->causedByLostConnection($again->getPrevious() ?? $again)) {
                    throw $again;
                }
                $e = $again;
            }
        }
    }

    private function takeOver(): float
    {
        return (float) config('harbor.acts.take_over');
    }

    /**
     * Statements are put together here, not by the server, so bytes that are no text are marked as such.
     *
     * @param  \PDOStatement  $statement
     * @param  array<mixed>  $bindings
     */
    public function bindValues($statement, $bindings): void
    {
        foreach ($bindings as $key => $value) {
            $statement->bindValue(is_string($key) ? $key : $key + 1, $value, match (true) {
                is_int($value) => \PDO::PARAM_INT,
                is_resource($value) => \PDO::PARAM_LOB,
                is_string($value) && ! mb_check_encoding($value, 'UTF-8') => \PDO::PARAM_LOB,
                default => \PDO::PARAM_STR,
            });
        }
    }

    /**
     * @param  string  $query
     * @param  array<mixed>  $bindings
     */
    protected function runQueryCallback($query, $bindings, \Closure $callback)
    {
        if (! $this->isSound()) {
            throw new TransactionLost;
        }

        return parent::runQueryCallback(self::widened($query, $bindings), $bindings, $callback);
    }

    /**
     * A text of other letters is looked for in columns that hold ASCII only: the column is widened for the comparison, which finds nothing,
     * where the server would refuse to narrow the text.
     *
     * @param  array<mixed>  $bindings
     */
    private static function widened(string $query, array $bindings): string
    {
        $wide = array_filter(
            array_values($bindings),
            static fn (mixed $b): bool => is_string($b) && preg_match('/[^\x00-\x7f]/', $b) === 1 && mb_check_encoding($b, 'UTF-8'),
        );
        if ($wide === [] || stripos(ltrim($query, '( '), 'select') !== 0) {
            return $query;
        }
        $parts = preg_split("/'(?:[^'\\\\]|\\\\.)*'(*SKIP)(*F)|`[^`]*`(*SKIP)(*F)|\?/s", $query) ?: [];
        $text = (string) array_shift($parts);
        foreach ($parts as $i => $part) {
            $text .= (isset($wide[$i]) ? 'CAST(? AS CHAR)' : '?').$part;
        }

        return count($parts) === count($bindings) ? $text : $query;
    }
}
