<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Person;
use App\Queries\Picks;
use App\Queries\Reach;

/** Inputs that mean objects, written as people know them, before they are read: a prefix, a VLAN's number, a name become the id. */
final class Understanding
{
    /**
     * @param  class-string<Act>  $act
     * @param  array<mixed>  $input
     * @return array<mixed>
     *
     * @throws BadInput for what means several objects, with the candidates
     */
    public static function of(string $act, array $input, ?Person $person): array
    {
        $picks = new Picks($person === null ? Reach::whole() : Reach::of($person));
        $faults = [];
        foreach (Inputs::of($act) as $name => $field) {
            if ($field->of === null || ! isset($input[$name]) || ! in_array($field->kind, [Kind::Id, Kind::Ids], true)) {
                continue;
            }
            if ($field->kind === Kind::Ids && is_string($input[$name])) {
                $input[$name] = self::listed($input[$name]);
            }
            $many = is_array($input[$name]);
            foreach ($many ? $input[$name] : [$input[$name]] as $i => $text) {
                if (
                    ! is_string($text) || trim($text) === '' || $text === '-' || self::isId($text) || ! $many && $field->kind === Kind::Ids
                ) {
                    continue;
                }
                $meant = $picks->meant($field->of, $text);
                if (count($meant) === 1) {
                    $many ? $input[$name][$i] = $meant[0]['id'] : $input[$name] = $meant[0]['id'];
                } elseif (count($meant) > 1) {
                    $faults[] = self::several($name, $field, $text, array_column($meant, 'label'));
                }
            }
        }

        return $faults === [] ? $input : throw new BadInput($faults);
    }

    /** @return string|list<string> ids apart by blanks as they are; what people know, a line each or apart by commas */
    private static function listed(string $text): string|array
    {
        $words = preg_split('/[\s,]+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: [];

        return array_filter($words, self::isId(...)) === $words
            ? $text
            : (preg_split('/\s*[\n,;]\s*/', trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: []);
    }

    private static function isId(string $text): bool
    {
        return preg_match('/\A[0-9A-HJKMNP-TV-Z]{26}\z/i', trim($text)) === 1;
    }

    /** @param  list<string>  $candidates */
    private static function several(string $name, Field $field, string $text, array $candidates): Note
    {
        return new Note(
            NoteVerdict::Blocked,
            'ambiguous',
            "$field->label: \"".mb_strimwidth($text, 0, 60, '…').'" may be '.implode(' or ', array_slice($candidates, 0, 6)),
            'Say which, for instance by choosing it from the list.',
            field: $name,
        );
    }
}
