<?php

declare(strict_types=1);

namespace App\Acts\Texts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\MadeText;
use App\Models\Person;
use App\Models\Template;

/** A template goes, with the texts that are kept of it. */
final readonly class RemoveTemplate extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Template', of: Template::class)]
        public string $template,
    ) {
    }

    public function title(): string
    {
        return 'Remove the template '.(Template::query()->find($this->template)->name ?? '');
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
        $row = Template::query()->find($this->template) ?? $ledger->refuse('gone', 'The template is not there any more');
        foreach (MadeText::query()->where('template_id', $row->id)->get() as $text) {
            $text->delete();
        }
        $row->delete();
    }
}
