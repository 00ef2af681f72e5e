<?php

declare(strict_types=1);

namespace App\Acts\Texts;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\MadeText;
use App\Models\Person;
use App\Models\Template;

/** A text is kept as it was made just now, and the one before it; where it is the same, only that it was looked at. */
final readonly class KeepText extends Act
{
    /** @param  string  $trouble  why it could not be made; what stands stays then */
    public function __construct(
        public string $template,
        public string $object,
        public string $objectTitle,
        public string $text,
        public string $trouble = '',
    ) {
    }

    public function title(): string
    {
        return 'Make the text of '.$this->objectTitle.' by '.(Template::query()->find($this->template)->name ?? 'a template');
    }

    public static function may(Person $person): bool
    {
        return KeepTemplate::may($person);
    }

    public function apply(Ledger $ledger): void
    {
        $template = Template::query()->find($this->template) ?? $ledger->refuse('gone', 'The template is not there any more');
        $row = MadeText::query()->where('template_id', $template->id)->where('object_id', $this->object)->first();
        $at = $ledger->at->format('Y-m-d H:i:s');
        $trouble = mb_strimwidth($this->trouble, 0, 490, '…');
        $digest = hash('sha256', $this->text);
        if ($row !== null && ($trouble !== '' || $row->digest === $digest)) {
            // That it was looked at is a machine's note; what it says changed not.
            MadeText::query()->toBase()->where('id', $row->id)->update(['looked_at' => $at, 'trouble' => $trouble]);

            return;
        }
        $row ??= new MadeText(['template_id' => $template->id, 'object_id' => $this->object]);
        $row->fill([
            'title' => mb_strimwidth($this->objectTitle, 0, 250, '…'), 'before' => $row->exists ? $row->text : null,
            'text' => $this->text,
            'digest' => $digest, 'made_at' => $at, 'looked_at' => $at, 'trouble' => $trouble,
        ])->save();
    }
}
