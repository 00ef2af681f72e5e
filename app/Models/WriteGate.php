<?php

declare(strict_types=1);

namespace App\Models;

/**
 * Open only while an act runs; a model written at any other time throws. Every row written through it is asked for first and entered in
 * the books afterwards.
 */
final class WriteGate
{
    private static ?Books $books = null;

    /**
     * @template T
     *
     * @param  \Closure(): T  $work
     * @return T
     */
    public static function during(Books $books, \Closure $work): mixed
    {
        $before = self::$books;
        self::$books = $books;
        try {
            return $work();
        } finally {
            self::$books = $before;
        }
    }

    public static function books(): Books
    {
        return self::$books
            ?? throw new WrittenOutsideAction('A model was written outside an act: every write goes through one.');
    }
}
