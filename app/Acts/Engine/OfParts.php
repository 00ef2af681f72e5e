<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/**
 * An act that stands for many, in one entry of history: a file that is taken over. It carries out none of them itself: it names them
 * one after the other, and the engine carries each out before it asks for the next. What one may not do in any other way, its parts
 * do not do either: they ask the same rules, at its ledger.
 */
interface OfParts
{
    /** @return iterable<string, Act> where it is written ("Line 12"; empty where a refusal says so itself) → the act */
    public function parts(Ledger $ledger): iterable;
}
