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
        /** writes down what is committed, with it */
        public ?Witness $witness = null,
    ) {
        $this->ids = array_map(static fn (): string => (string) Str::ulid(), $acts);
    }

    /** The same under other numbers: those of before can never be committed any more. */
    public function anew(): self
    {
        return new self(
            $this->person, $this->acts, $this->expects, $this->commit, $this->reason, $this->asShown, $this->shown, $this->emergency,
            $this->witness,
        );
    }
}
