<?php

declare(strict_types=1);

namespace App\Database;

/** What a failure of the database means for whoever was writing: try again, wait for the database, or neither. */
final class Contention
{
    /** Lock wait, deadlock, row changed since it was read, aborted at commit. */
    private const LOST = [1205, 1213, 1020, 1180];

    /** Somebody wrote the same key, took away what ours hangs on, or hung something on what ours takes away. */
    private const COLLIDED = [1062, 1451, 1452];

    /** The table is full, the disk is full, writing failed. */
    private const FULL = [1114, 1021, 1026, 3];

    private const NOT_READY = 1047;

    /** No server, gone away, lost while asking, node not ready. */
    private const AWAY = [2002, 2006, 2013, 2055, self::NOT_READY, 1927, 1053];

    /** Nothing was written, and a new try on a sound connection may succeed. */
    public static function isLost(\Throwable $e): bool
    {
        return in_array(self::code($e), [...self::LOST, ...self::COLLIDED], true)
            || self::state($e) === '40001'
            || str_contains($e->getMessage(), 'no active transaction');
    }

    /** A key or a foreign key stood in the way: when it stays so, the act itself is at fault. */
    public static function isCollision(\Throwable $e): bool
    {
        return in_array(self::code($e), self::COLLIDED, true);
    }

    public static function isAway(\Throwable $e): bool
    {
        // A server outside that refuses a connection says so in like words.
        for ($at = $e; $at !== null && ! $at instanceof \PDOException; $at = $at->getPrevious()) {
        }
        if ($at === null) {
            return false;
        }

        return in_array(self::code($e), self::AWAY, true)
            || self::isNotReady($e)
            || preg_match(
                '/gone away|Lost connection|Connection refused|Connection reset|not yet prepared|shutdown in progress/i',
                $e->getMessage(),
            ) === 1;
    }

    /** There is no room left to write to, in the database or on this machine. */
    public static function isFull(\Throwable $e): bool
    {
        return in_array(self::code($e), self::FULL, true)
            || preg_match('/errno: 28\b|No space left on device/i', $e->getMessage()) === 1;
    }

    /** Somebody else's lock, or what was written elsewhere, was waited for in vain. */
    public static function waited(\Throwable $e): bool
    {
        return self::code($e) === 1205;
    }

    /** A node of a cluster that is not, or no longer, one of those that may answer. */
    public static function isNotReady(\Throwable $e): bool
    {
        return self::code($e) === self::NOT_READY || str_contains($e->getMessage(), 'ot connected to Primary');
    }

    private static function code(\Throwable $e): int
    {
        for ($at = $e; $at !== null; $at = $at->getPrevious()) {
            if ($at instanceof \PDOException && isset($at->errorInfo[1])) {
                return (int) $at->errorInfo[1];
            }
            // An error before there is a connection has only its code.
            if ($at instanceof \PDOException && is_int($at->getCode()) && $at->getCode() > 0) {
                return $at->getCode();
            }
        }

        return 0;
    }

    private static function state(\Throwable $e): string
    {
        return $e instanceof \PDOException && isset($e->errorInfo[0]) ? (string) $e->errorInfo[0] : '';
    }
}
