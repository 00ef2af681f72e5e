<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Lease\Pairs;
use App\Models\Pair;
use App\Models\PairMode;
use App\Models\Person;

/** The terms of a pair change, or its key is drawn anew. What is not given stays. */
final readonly class ChangePair extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Pair', of: Pair::class)]
        public string $pair,
        #[Field(Kind::Line, 'Name', most: 60)]
        public ?string $name = null,
        #[Field(Kind::Choice, 'How they share the work', choices: ['balance', 'standby'])]
        public ?string $mode = null,
        #[Field(Kind::Number, 'Per cent of the first server, or kept for the one that stands by', most: 99, least: 1)]
        public ?int $percent = null,
        #[Field(Kind::Line, 'A lease runs ahead of the other by at most', most: 30)]
        public ?string $lead = null,
        #[Field(Kind::Flag, 'A new key',
            'Draws a new key; the one before it holds until both servers have the new one and it is forgotten')]
        public bool $newKey = false,
        #[Field(Kind::Flag, 'Forget the old key', 'Only the newest key holds any more')]
        public bool $forget = false,
        #[Field(Kind::Line, 'Description', most: 255)]
        public ?string $description = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the pair '.(Pair::query()->find($this->pair)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.pair', $this->pair);
    }

    public function apply(Ledger $ledger): void
    {
        $pair = Pair::query()->find($this->pair) ?? $ledger->refuse('gone', 'The pair is not there any more');
        if ($this->name !== null && $this->name !== $pair->name) {
            if (trim($this->name) === '' || Pair::query()->where('name', $this->name)->exists()) {
                $ledger->refuse('name-taken', "\"$this->name\" is empty, or exists already", field: 'name');
            }
            $pair->name = $this->name;
        }
        $pair->mode = $this->mode === null ? $pair->mode : PairMode::from($this->mode);
        $pair->percent = $this->percent ?? $pair->percent;
        $pair->lead = $this->lead === null ? $pair->lead : Pairs::lead($ledger, $this->lead);
        $pair->description = $this->description ?? $pair->description;
        if ($pair->isDirty(['mode', 'percent', 'lead'])) {
            $ledger->later(
                'Until both servers have the new terms, each gives only addresses that are its own by the old ones and by the new ones',
            );
        }
        $this->keys($ledger, $pair);
        if ($pair->isDirty()) {
            $pair->save();
        }
    }

    private function keys(Ledger $ledger, Pair $pair): void
    {
        $keys = $pair->keys;
        if ($this->newKey && count($keys) > 1) {
            $ledger->refuse(
                'two-keys',
                'Two keys hold already: with a third one the servers might have none in common',
                'Ship the pair to both servers, look that both use the newest key, and forget the old one first.',
                null,
                'newKey',
                at('lease.pair', $pair->id),
            );
        }
        if ($this->newKey) {
            $keys = [...$keys, Pair::drawKey() + ['made' => $ledger->at->format(DATE_ATOM)]];
            $ledger->later('The servers go on with the old key until both have the new one; the old one holds until it is forgotten here');
        } elseif ($this->forget && count($keys) > 1) {
            $keys = array_slice($keys, -1);
            $ledger->warn(
                'old-key',
                'A server that does not have the new key yet will not be heard any more',
                'Ship the pair to both servers first, and look that both use the new key.',
                null,
                'forget',
                at('lease.pair', $pair->id),
            );
        }
        if ($keys !== $pair->keys) {
            $pair->keys = array_values($keys);
        }
    }
}
