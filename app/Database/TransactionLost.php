<?php

declare(strict_types=1);

namespace App\Database;

/** The server ended a transaction without a word: nothing of it was written. */
final class TransactionLost extends \PDOException
{
    public function __construct()
    {
        parent::__construct('The transaction ended before its time.');
        $this->errorInfo = ['40001', 1213, $this->message];
    }
}
