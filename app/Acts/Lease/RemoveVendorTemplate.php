<?php

declare(strict_types=1);

namespace App\Acts\Lease;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\VendorTemplate;

/** Sub-options of a maker are typed and read as bytes again. */
final readonly class RemoveVendorTemplate extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Template', of: VendorTemplate::class)]
        public string $template,
    ) {
    }

    public function title(): string
    {
        return 'Remove the template '.(VendorTemplate::query()->find($this->template)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('lease.options').'#templates';
    }

    public function apply(Ledger $ledger): void
    {
        (VendorTemplate::query()->find($this->template) ?? $ledger->refuse('gone', 'The template is not there any more'))->delete();
        $ledger->passed('reads-only', 'What is sent to clients stays as it is');
    }
}
