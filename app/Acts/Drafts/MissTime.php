<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Draft;
use App\Models\DraftState;
use App\Models\Person;

/** A draft was not committed when its time came: its author is told why, and says anew when. */
final readonly class MissTime extends Act
{
    public function __construct(public string $draft, public string $due, public string $why)
    {
    }

    public function title(): string
    {
        return 'Not committed at its time';
    }

    /** The clock's alone. */
    public static function may(Person $person): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("draft-of:$this->draft");
        $draft = Draft::query()->where('state', DraftState::Submitted)->find($this->draft);
        // Given another time, or none, in the meantime: nothing was missed.
        if ($draft === null || $draft->due_at?->format('Y-m-d H:i:s') !== $this->due) {
            return;
        }
        $draft->due_problem = mb_strimwidth($this->why, 0, 490, '…');
        $draft->save();
    }
}
