<?php

declare(strict_types=1);

namespace App\Acts\Engine;

/** One check of an act: passed, warned or blocked, with the standard, the thing in the way and the fix. */
final readonly class Note
{
    public function __construct(
        public NoteVerdict $verdict,
        public string $code,
        public string $message,
        public string $why = '',
        public ?string $standard = null,
        /** the field of the form it belongs to */
        public ?string $field = null,
        /** page of the object in the way */
        public ?string $link = null,
        /** what the field could hold instead */
        public ?string $offer = null,
        /** @var array<string, int> "noun:id" of what somebody changed meanwhile → the version that is there now */
        public array $changed = [],
    ) {
    }

    public function blocks(): bool
    {
        return $this->verdict === NoteVerdict::Blocked;
    }

    public function warns(): bool
    {
        return $this->verdict === NoteVerdict::Warned;
    }
}
