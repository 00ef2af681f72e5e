<?php

declare(strict_types=1);

namespace App\Acts\Drafts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Draft;
use App\Models\DraftEdit;
use App\Models\DraftRemark;
use App\Models\Person;
use Carbon\CarbonImmutable;

/** Something is said of a submitted draft, or of one edit of it, by its author or by who reads it. */
final readonly class RemarkDraft extends Act
{
    public function __construct(public string $draft, public string $text, public ?string $edit = null)
    {
    }

    public function title(): string
    {
        return 'Say something of a draft';
    }

    public static function may(Person $person): bool
    {
        return true;
    }

    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $draft = $ledger->person === null ? null : Drafts::readable($ledger->person)->find($this->draft);
        if ($draft === null) {
            $ledger->refuse('gone', 'This draft is not available to you');
        }
        if (trim($this->text) === '') {
            $ledger->refuse('no-text', 'Nothing was said', field: 'text');
        }
        $edit = $this->edit === null ? null : DraftEdit::query()->where('draft_id', $draft->id)->find($this->edit);
        (
            new DraftRemark([
                'draft_id' => $draft->id, 'edit_id' => $edit?->id, 'person_id' => $ledger->personId(),
                'text' => mb_strimwidth(trim($this->text), 0, 2000, '…'), 'at' => CarbonImmutable::instance($ledger->at),
            ])
        )->save();
    }
}
