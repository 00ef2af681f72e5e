<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Person;
use Illuminate\Support\Str;

/** Acts to be carried out as one, by whom and on what ground; their ids are the same however often it takes. */
final readonly class Attempt
{
    /** @var list<string> one an act */
    public array $ids;

    /**
     * @param  list<Act>  $acts
     * @param  list<array<string, int>>  $expects  for each act: "noun:id" → version
     */
    public function __construct(
        public ?Person $person,
        public array $acts,
        public array $expects,
        public bool $commit,
        public ?string $reason = null,
        /** each act writes only rows that were there when it was shown, in the versions that $expects names */
        public bool $asShown = false,
        /** digest of what was shown to be written; other writes end the attempt */
        public ?string $shown = null,
        /** committed without the agreement that rules ask for, by who may, with the reason */
        public bool $emergency = false,
    ) {
        $this->ids = array_map(static fn (): string => (string) Str::ulid(), $acts);
    }
}
