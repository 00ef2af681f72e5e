<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Domain\Ship\LocalTime;
use App\Models\DraftState;
use Carbon\CarbonImmutable;

/** A submitted draft gets a time at which it is committed by itself, as it was shown; or loses it. */
final readonly class TimeDraft extends OwnDraft
{
    /** How far ahead it may be, in days. */
    private const AHEAD = 370;

    /**
     * @param  string  $at  by the clock of $zone; blank takes the time away
     * @param  string  $shown  digest of what would be written, as it was shown
     */
    public function __construct(
        public string $draft,
        public string $at = '',
        public string $zone = 'UTC',
        public string $shown = '',
        public string $reason = '',
    ) {
    }

    public function title(): string
    {
        return $this->at === '' ? 'Take the time of the draft away' : 'Set a time for the draft';
    }

    public function apply(Ledger $ledger): void
    {
        $draft = self::authored($ledger, $this->draft, DraftState::Submitted);
        $draft->due_problem = '';
        if ($this->at === '') {
            $draft->due_at = null;
            $draft->due_digest = null;
            $draft->due_reason = '';
            $draft->save();

            return;
        }
        $at = LocalTime::read($ledger, $this->at, $this->zone, 'at');
        if ($at <= $ledger->at) {
            $ledger->refuse('past', 'That time is over', 'Take a later one, or commit it now.', field: 'at');
        }
        if ($at > $ledger->at->modify('+'.self::AHEAD.' days')) {
            $ledger->refuse('far', 'That is more than a year ahead', 'Nobody will know what it was for.', field: 'at');
        }
        if (strlen($this->shown) !== 64) {
            $ledger->refuse('not-shown', 'It was not shown what would be written', 'Look at the draft, then set its time.');
        }
        $draft->due_at = CarbonImmutable::instance($at)->utc();
        $draft->due_digest = $this->shown;
        $draft->due_reason = mb_strimwidth(trim($this->reason), 0, 250, '…');
        $draft->save();
    }
}
