<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\DraftState;
use App\Models\DraftVerdict;
use App\Models\Person;
use App\Models\Role;
use Carbon\CarbonImmutable;

/** An approver agrees to somebody else's draft as it was read, or refuses it with a reason. */
final readonly class DecideDraft extends Act
{
    public function __construct(public string $draft, public bool $agrees, public string $reason, public string $digest)
    {
    }

    public function title(): string
    {
        return $this->agrees ? 'Agree to a draft' : 'Refuse a draft';
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Approver) && ! $person->isBound();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $draft = Draft::query()->with('edits')->where('state', DraftState::Submitted)->lockForUpdate()->find($this->draft)
            ?? $ledger->refuse('gone', 'The draft does not wait any more', 'It was taken back, committed or dropped.');
        if ($draft->isBy($ledger->personId() ?? '')) {
            $ledger->refuse(
                'own-draft',
                'Nobody agrees to a draft of their own',
                'You wrote it, or a part of it: another approver has to read it.',
            );
        }
        if (! hash_equals($draft->digest(), $this->digest)) {
            $ledger->refuse('changed-meanwhile', 'The draft is not the one that you read', 'It was changed meanwhile; read it again.');
        }
        if (! $this->agrees && trim($this->reason) === '') {
            $ledger->refuse('no-reason', 'Say why you refuse it', 'Its author needs to know what to change.', field: 'reason');
        }
        foreach (
            DraftDecision::query()->where('draft_id', $draft->id)->where('person_id', $ledger->personId())->whereNull('void_at')
                ->get() as $before
        ) {
            $before->void_at = CarbonImmutable::instance($ledger->at);
            $before->save();
        }
        (
            new DraftDecision([
                'draft_id' => $draft->id, 'person_id' => $ledger->personId(),
                'verdict' => $this->agrees ? DraftVerdict::Agreed : DraftVerdict::Refused,
                'reason' => mb_strimwidth(trim($this->reason), 0, 2000, '…'), 'digest' => $draft->digest(),
                'at' => CarbonImmutable::instance($ledger->at),
            ])
        )->save();
    }
}
