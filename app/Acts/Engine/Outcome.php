<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Person;
use HarborPost\Core\Agreement\Rule;

/** What an act, or several as one, wrote or would write, and what the checks say. */
final readonly class Outcome
{
    /** @param  list<Ledger>  $ledgers  one an act, in order */
    public function __construct(
        public array $ledgers,
        public bool $committed,
        public ?string $trouble = null,
        public bool $wantsReason = false,
        public bool $stale = false,
        /** @var list<Rule> rules that ask for the agreement of others, the one that needs most first */
        public array $needs = [],
    ) {
    }

    /** Of acts whose inputs could not be read. */
    public static function unread(?Person $person, BadInput $fault): self
    {
        $ledger = new Ledger($person, now()->toDateTimeImmutable());
        $ledger->notes = $fault->notes;

        return new self([$ledger], false);
    }

    public function blocked(): bool
    {
        return $this->trouble !== null || $this->block() !== null;
    }

    /** The check that stands in the way. */
    public function block(): ?Note
    {
        foreach ($this->notes() as $note) {
            if ($note->blocks()) {
                return $note;
            }
        }

        return null;
    }

    /** Why nothing was written, and what to do about it. */
    public function why(): string
    {
        $block = $this->block();

        return ($block->message ?? (string) $this->trouble).($block?->why ? '. '.$block->why : '');
    }

    /** @return array<string, int> "noun:id" of what the last act found changed by somebody → the version that is there now */
    public function changedMeanwhile(): array
    {
        $ledgers = $this->ledgers;

        return array_merge(...array_map(static fn (Note $n): array => $n->changed, array_pop($ledgers)->notes ?? []), ...[[]]);
    }

    /** @return list<Note> the gravest first */
    public function notes(): array
    {
        $notes = array_merge(...array_map(static fn (Ledger $l): array => $l->notes, $this->ledgers), ...[[]]);
        usort($notes, static fn (Note $a, Note $b): int => $a->verdict->rank() <=> $b->verdict->rank());

        return $notes;
    }

    /** What is written, as far as people see it: the same writes give the same digest, whatever ids were minted for them. */
    public function digest(): string
    {
        $lines = [];
        foreach ($this->written() as $w) {
            // The draft that it stands in is no part of what it writes.
            if ($w->noun === 'draft') {
                continue;
            }
            $turned = $w->op === 'turn' ? json_encode($w->after, JSON_INVALID_UTF8_SUBSTITUTE) : '';
            $lines[] = "$w->op $w->noun $w->line "
                .preg_replace('/"[0-9A-HJKMNP-TV-Z]{26}"|"\d{4}-\d\d-\d\d[T ][^"]*"/', '"-"', (string) $turned);
        }

        return hash('sha256', implode("\n", $lines)."\n".$this->bulk());
    }

    /** @return list<Written> */
    public function written(): array
    {
        return array_merge(...array_map(static fn (Ledger $l): array => $l->written, $this->ledgers), ...[[]]);
    }

    /** @return list<string> */
    public function later(): array
    {
        return array_merge(...array_map(static fn (Ledger $l): array => array_column($l->later, 0), $this->ledgers), ...[[]]);
    }

    /** @return int rows of the plan that are written, listed or only counted: the draft that it stands in is none */
    public function rows(): int
    {
        return count(array_filter($this->written(), static fn (Written $w): bool => $w->noun !== 'draft')) + $this->bulk();
    }

    public function bulk(): int
    {
        return array_sum(array_map(static fn (Ledger $l): int => $l->bulk, $this->ledgers));
    }

    public function made(string $key): mixed
    {
        foreach ($this->ledgers as $ledger) {
            if (isset($ledger->made[$key])) {
                return $ledger->made[$key];
            }
        }

        return null;
    }
}
