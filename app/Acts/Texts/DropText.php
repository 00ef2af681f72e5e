<?php

declare(strict_types=1);

namespace App\Acts\Texts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\MadeText;
use App\Models\Person;

/** A text is kept no longer. */
final readonly class DropText extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Text', of: MadeText::class)]
        public string $text,
    ) {
    }

    public function title(): string
    {
        return 'Keep the text of '.(MadeText::query()->find($this->text)->title ?? 'an object').' no longer';
    }

    public static function may(Person $person): bool
    {
        return KeepTemplate::may($person);
    }

    public function landing(): string
    {
        return at('directory.texts');
    }

    public function apply(Ledger $ledger): void
    {
        $row = MadeText::query()->find($this->text) ?? $ledger->refuse('gone', 'The text is not kept any more');
        $row->delete();
    }
}
