<?php

declare(strict_types=1);

namespace Tests\Engine;

/**
 * A connection that fails once, where it is told to: at the nth statement that writes, at COMMIT (before or after it took effect) or at
 * ROLLBACK.
 */
final class FaultyPdo extends \PDO
{
    private int $writes = 0;

    public bool $struck = false;

    private bool $ends = false;

    /**
     * @param  'write'|'commit'|'committed'|'rollback'  $stage
     * @param  int  $code  an error number of the server; 0 ends the transaction without a word
     */
    public function __construct(
        string $dsn,
        string $user,
        string $password,
        public readonly string $stage,
        public readonly int $code,
        public readonly int $nth = 1,
    ) {
        parent::__construct($dsn, $user, $password, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_EMULATE_PREPARES => true]);
        $this->exec('SET NAMES utf8mb4 COLLATE utf8mb4_unicode_ci');
        $this->exec("SET SESSION sql_mode = 'STRICT_TRANS_TABLES,NO_ZERO_IN_DATE,NO_ZERO_DATE,ERROR_FOR_DIVISION_BY_ZERO'");
        $this->exec('SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED');
    }

    public function prepare(string $query, array $options = []): \PDOStatement|false
    {
        if (
            $this->stage === 'write'
                && ! $this->struck
                && preg_match('/\A\s*(insert|update|delete)/i', $query) === 1
                && parent::inTransaction()
                && ++$this->writes === $this->nth
        ) {
            // Without a word the transaction ends behind a statement that was answered: the next look finds it gone.
            $this->code === 0 ? $this->ends = true : $this->strike();
        }

        return parent::prepare($query, $options);
    }

    public function inTransaction(): bool
    {
        if ($this->ends && ! $this->struck) {
            $this->strike();
        }

        return parent::inTransaction();
    }

    public function commit(): bool
    {
        if ($this->stage === 'commit' && ! $this->struck) {
            $this->strike();
        }
        $done = parent::commit();
        if ($this->stage === 'committed' && ! $this->struck) {
            $this->struck = true;
            throw self::error($this->code);
        }

        return $done;
    }

    public function rollBack(): bool
    {
        if ($this->stage === 'rollback' && ! $this->struck) {
            $this->struck = true;
            throw self::error($this->code);
        }

        return parent::rollBack();
    }

    /** The server gives the transaction up; with a code it says so. */
    private function strike(): void
    {
        $this->struck = true;
        $this->exec('ROLLBACK');
        if ($this->code !== 0) {
            throw self::error($this->code);
        }
    }

    private static function error(int $code): \PDOException
    {
        $states = [1213 => '40001', 1205 => 'HY000', 1062 => '23000', 1047 => '08S01', 2006 => 'HY000', 1020 => 'HY000'];
        $e = new \PDOException(
            "SQLSTATE[$states[$code]]: error $code: ".($code === 2006 ? 'MySQL server has gone away' : 'as the test has it'),
        );
        $e->errorInfo = [$states[$code], $code, 'as the test has it'];

        return $e;
    }
}
