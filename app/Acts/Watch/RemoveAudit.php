<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Audit;
use App\Models\Person;

/** A rule about the data goes, with what it found. */
final readonly class RemoveAudit extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Audit', of: Audit::class)]
        public string $audit,
    ) {
    }

    public function title(): string
    {
        return 'Remove the audit '.(Audit::query()->find($this->audit)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('watch.audits');
    }

    public function apply(Ledger $ledger): void
    {
        $audit = Audit::query()->find($this->audit) ?? $ledger->refuse('gone', 'The audit is not there any more');
        KeepAudit::mayBlock($ledger, $audit->at_edit);
        $audit->delete();
    }
}
