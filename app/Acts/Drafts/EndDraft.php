<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Draft;

/** Marks a draft as committed, in the same transaction as its edits. */
final readonly class EndDraft extends OwnDraft
{
    public function __construct(public string $draft)
    {
    }

    public function title(): string
    {
        return 'The draft is committed';
    }

    public function ofDraft(): string
    {
        return $this->draft;
    }

    public function apply(Ledger $ledger): void
    {
        self::end($ledger, $this->draft, Draft::COMMITTED);
    }

    public static function end(Ledger $ledger, string $id, string $state): void
    {
        Guard::own('draft:'.$ledger->personId());
        $draft = Draft::query()->where('person_id', $ledger->person?->id)->whereIn('state', [Draft::OPEN, Draft::SUBMITTED])->find($id)
            ?? $ledger->refuse('gone', 'The draft is not open any more');
        $draft->state = $state;
        $draft->ended_at = \Carbon\CarbonImmutable::instance($ledger->at);
        $draft->save();
    }
}
