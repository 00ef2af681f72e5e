<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** One row that an act wrote, as people and history read it. */
final readonly class Written
{
    public const WORDS = ['add' => 'new', 'turn' => 'changed', 'cut' => 'removed'];

    /**
     * @param  'add'|'turn'|'cut'  $op
     * @param  array<string, mixed>|null  $before  changed columns only when the row existed before and after
     * @param  array<string, mixed>|null  $after
     */
    public function __construct(
        public string $op,
        public string $noun,
        public string $id,
        public string $line,
        public ?array $before,
        public ?array $after,
        public ?int $versionBefore,
        /** null when the row is gone or has no versions */
        public ?int $versionAfter = null,
        /** the object to which the row belongs */
        public ?string $within = null,
    ) {
    }

    /** What was done to the row, as people say it. */
    public function word(): string
    {
        return self::WORDS[$this->op];
    }
}
