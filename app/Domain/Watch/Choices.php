<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use App\Acts\Engine\Ledger;
use App\Models\FactKind;
use App\Queries\Facts\Catalogue;
use App\Queries\Facts\Condition;
use App\Queries\Facts\Test;

/** Conditions as a form sends them: "1-fact", "1-test", "1-value", "2-or" and so on for a few rows; a row without a fact is left out. */
final class Choices
{
    public const ROWS = 4;

    /**
     * @param  array<string, string>  $map
     * @return list<Condition>
     */
    public static function read(Ledger $ledger, FactKind $kind, array $map, string $field): array
    {
        $read = [];
        for ($i = 1; $i <= self::ROWS * 3; $i++) {
            $fact = $map["$i-fact"] ?? '';
            if ($fact === '') {
                continue;
            }
            $known = Catalogue::of($kind)[$fact] ?? null;
            $test = Test::tryFrom($map["$i-test"] ?? 'is');
            $value = trim($map["$i-value"] ?? '');
            if ($known === null) {
                $ledger->refuse('no-such-fact', "Of {$kind->plural()} \"$fact\" is not known", 'Choose another one.', field: $field);
            }
            if ($test === null) {
                $ledger->refuse('no-such-test', "\"{$map["$i-test"]}\" is nothing that can be asked", field: $field);
            }
            if ($test->takesValue() && $value === '') {
                $ledger->refuse(
                    'value-missing',
                    "$known->label {$test->words()} … what?",
                    'Write a value, or ask whether it is there.',
                    field: $field,
                );
            }
            if (in_array($test, [Test::Above, Test::Below], true) && ! is_numeric(str_replace([',', '%', ' '], '', $value))) {
                $ledger->refuse('no-number', "\"$value\" is no number", field: $field);
            }
            $read[] = new Condition($fact, $test, $value, $read !== [] && ($map["$i-or"] ?? '') === '1');
        }

        return $read;
    }

    public static function kind(Ledger $ledger, string $kind): FactKind
    {
        return FactKind::tryFrom($kind) ?? $ledger->refuse('no-such-kind', "\"$kind\" is no kind of object", field: 'kind');
    }
}
