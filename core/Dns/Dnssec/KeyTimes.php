<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** What happened to a key, and when: seconds since 1970, null for what has not happened. */
final readonly class KeyTimes
{
    public function __construct(
        public string $id,
        public KeyRole $role,
        /** the servers of the zone have it since; entries sign the keys from here on */
        public int $published,
        /** signs the zone since */
        public ?int $active = null,
        /** another one signs in its place since */
        public ?int $retired = null,
        /** the parent was asked to name it */
        public ?int $dsAsked = null,
        /** every server of the parent names it since */
        public ?int $dsSeen = null,
        /** no server of the parent names it since */
        public ?int $dsGone = null,
        public ?int $removed = null,
        /** by its number in the registry: only keys of one algorithm follow each other */
        public int $algorithm = 0,
        /** signs, or is to sign, without standing among the keys: before and after a change of the algorithm */
        public bool $hidden = false,
        /** the servers have it no more among the keys since; its signatures stay for a while */
        public ?int $withdrawn = null,
    ) {
    }

    public function isThere(): bool
    {
        return $this->removed === null;
    }
}
