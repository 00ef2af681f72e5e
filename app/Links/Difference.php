<?php

declare(strict_types=1);

namespace App\Links;

/** What one zone or scope on one server lacks or has too much, against the plan. */
final readonly class Difference
{
    /**
     * @param  list<string>  $removed  lines for people, at most LISTED
     * @param  list<string>  $added
     */
    public function __construct(
        /** zone or scope */
        public string $kind,
        public string $id,
        public string $title,
        public DifferenceState $state,
        public array $removed = [],
        public array $added = [],
        public int $removedCount = 0,
        public int $addedCount = 0,
        public string $message = '',
        /** the serial or digest that runs, and the one that is meant */
        public ?string $running = null,
        public ?string $intended = null,
        /** the server does not run what it was last brought to: somebody changed it, or it lost it */
        public bool $drifted = false,
        /** the running state was read as a whole */
        public bool $readWhole = false,
        /** how far the server may raise its serial by itself while it is brought to this */
        public int $raises = 0,
    ) {
    }

    public function raising(int $by): self
    {
        return new self(
            $this->kind, $this->id, $this->title, $this->state, $this->removed, $this->added, $this->removedCount, $this->addedCount,
            $this->message, $this->running, $this->intended, $this->drifted, $this->readWhole, $by,
        );
    }

    public const LISTED = 200;

    /**
     * What a page shows of differences: the same ones give the same digest.
     *
     * @param  iterable<self>  $differences
     */
    public static function digest(iterable $differences): string
    {
        $lines = [];
        foreach ($differences as $d) {
            $lines[] = json_encode(
                [$d->kind, $d->id, $d->state, $d->removed, $d->added, $d->removedCount, $d->addedCount, $d->running],
                JSON_INVALID_UTF8_SUBSTITUTE,
            );
        }
        sort($lines);

        return hash('sha256', implode("\n", $lines));
    }

    public function needsShipping(): bool
    {
        return $this->state->needsShipping();
    }
}
