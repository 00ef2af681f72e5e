<?php

declare(strict_types=1);

namespace App\Links;

/**
 * How one server outside is read and written. Everything is bounded in time and throws {@see Unanswered} with the server's name.
 */
interface Link
{
    /**
     * Intended against running, one entry a zone or scope. Cheap by default (serials and digests); $deep reads the whole running state.
     *
     * @return list<Difference>
     */
    public function compare(bool $deep = false): array;

    /** Brings one zone or scope to the intended state. */
    public function apply(string $kind, string $id): void;

    /**
     * Asks the server by real packets whether it answers what is meant.
     *
     * @return string what was asked and answered, for people
     *
     * @throws Unanswered when it does not
     */
    public function verify(string $kind, string $id): string;

    /** Does it ask by packets, so that what it verified is proved? Otherwise that is the server's own word. */
    public function proves(string $kind, string $id): bool;
}
