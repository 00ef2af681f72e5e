<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Acts\Engine\Ledger;
use App\Models\OwnField;

/** A value of an own field, wherever it is written. */
final class OwnValue
{
    /** Does a value fit the field? Blank always does. */
    public static function check(Ledger $ledger, OwnField $field, string $value): void
    {
        $fits = match ($field->kind) {
            'number' => is_numeric($value),
            'date' => preg_match('/\A\d{4}-\d\d-\d\d\z/', $value) === 1
                && checkdate((int) substr($value, 5, 2), (int) substr($value, 8, 2), (int) substr($value, 0, 4)),
            'choice' => in_array($value, $field->choices, true),
            default => mb_strlen($value) <= 250,
        };
        if ($value !== '' && ! $fits) {
            $ledger->refuse('bad-field', "\"$value\" does not fit $field->name", match ($field->kind) {
                'number' => 'It takes a number.',
                'date' => 'It takes a date as 2026-03-31.',
                'choice' => 'It takes one of '.implode(', ', $field->choices).'.',
                default => 'It takes at most 250 characters.',
            }, null, "own[$field->id]");
        }
    }
}
