<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Cache\DatabaseStore;

/**
 * Counts, as throttling does, on the node that takes over. Where a commit got no answer it counts once more: one too many does no harm, and
 * nobody is refused for it.
 */
final class PatientCache extends DatabaseStore
{
    /**
     * @param  string  $key
     * @param  int|float  $value
     * @return int|false
     */
    protected function incrementOrDecrement($key, $value, \Closure $callback)
    {
        try {
            return parent::incrementOrDecrement($key, $value, $callback);
        } catch (\PDOException $e) {
            if (! Contention::isAway($e) || (float) config('harbor.acts.take_over') <= 0) {
                throw $e;
            }

            return parent::incrementOrDecrement($key, $value, $callback);
        }
    }
}
