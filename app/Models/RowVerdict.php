<?php

declare(strict_types=1);

namespace App\Models;

/** What is to be done with a row of a file. */
enum RowVerdict: string
{
    /** not judged yet */
    case Read = 'read';
    case Add = 'add';
    case Change = 'change';
    case Same = 'same';
    /** there, and not in the file */
    case Cut = 'cut';
    case Refused = 'refused';

    public const JUDGED = [self::Add, self::Change, self::Same, self::Cut, self::Refused];

    public function words(): string
    {
        return match ($this) {
            self::Read => 'to judge',
            self::Add => 'to add',
            self::Change => 'to change',
            self::Same => 'the same',
            self::Cut => 'not in the file',
            self::Refused => 'refused',
        };
    }
}
