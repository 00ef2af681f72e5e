<?php

declare(strict_types=1);

namespace App\Queries\Facts;

use App\Models\FactKind;

/** One choice of a rule or report: a fact, what is asked of it, and of what. */
final readonly class Condition
{
    public function __construct(public string $fact, public Test $test, public string $value)
    {
    }

    /**
     * @param  array<mixed>  $rows  {fact, test, value} each, as they are stored; what does not fit the kind any more is left out
     * @return list<self>
     */
    public static function all(FactKind $kind, array $rows): array
    {
        $all = [];
        foreach ($rows as $row) {
            $text = static fn (string $key): string => is_array($row) && is_scalar($row[$key] ?? null) ? (string) $row[$key] : '';
            $test = Test::tryFrom($text('test'));
            if ($test !== null && isset(Catalogue::of($kind)[$text('fact')])) {
                $all[] = new self($text('fact'), $test, $text('value'));
            }
        }

        return $all;
    }

    /** @return array{fact: string, test: string, value: string} */
    public function stored(): array
    {
        return ['fact' => $this->fact, 'test' => $this->test->value, 'value' => $this->value];
    }

    public function words(FactKind $kind): string
    {
        $label = Catalogue::of($kind)[$this->fact]->label ?? $this->fact;
        // A word of capitals stays one.
        $label = preg_match('/\A\p{Lu}{2}/u', $label) === 1 ? $label : lcfirst($label);

        return $this->test->takesValue() ? "$label {$this->test->words()} $this->value" : "$label {$this->test->words()}";
    }
}
