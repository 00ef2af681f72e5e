<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\Connectors\MariaDbConnector;

/** Where another node takes over, whoever wants to speak to the database waits that long for one that is ready. */
final class PatientConnector extends MariaDbConnector
{
    /** Microseconds between two tries. */
    private const PAUSE = 150_000;

    /** @param  array<string, mixed>  $config */
    public function connect(array $config): \PDO
    {
        $wait = (float) config('harbor.acts.take_over');
        if ($wait <= 0) {
            return parent::connect($config);
        }
        for ($until = microtime(true) + $wait; ; usleep(self::PAUSE)) {
            try {
                $pdo = parent::connect($config);
                $pdo->query('SELECT 1');

                return $pdo;
            } catch (\PDOException $e) {
                if (! Contention::isAway($e) || microtime(true) >= $until) {
                    throw $e;
                }
            }
        }
    }
}
