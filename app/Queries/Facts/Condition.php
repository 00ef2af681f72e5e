<?php

declare(strict_types=1);

namespace App\Queries\Facts;

use App\Models\FactKind;

/** One choice of a rule or report: a fact, what is asked of it, and of what; beside the one before it, or instead of it. */
final readonly class Condition
{
    public function __construct(public string $fact, public Test $test, public string $value, public bool $or = false)
    {
    }

    /**
     * @param  array<mixed>  $rows  {fact, test, value, or} each, as they are stored; what does not fit the kind any more is left out
     * @return list<self>
     */
    public static function all(FactKind $kind, array $rows): array
    {
        $all = [];
        foreach ($rows as $row) {
            $text = static fn (string $key): string => is_array($row) && is_scalar($row[$key] ?? null) ? (string) $row[$key] : '';
            $test = Test::tryFrom($text('test'));
            if ($test !== null && isset(Catalogue::of($kind)[$text('fact')])) {
                $all[] = new self($text('fact'), $test, $text('value'), is_array($row) && ($row['or'] ?? false) === true);
            }
        }

        return $all;
    }

    /**
     * @param  list<self>  $all
     * @return list<non-empty-list<self>> of each group one has to hold
     */
    public static function groups(array $all): array
    {
        $groups = [];
        foreach ($all as $one) {
            if ($one->or && $groups !== []) {
                $groups[array_key_last($groups)][] = $one;
            } else {
                $groups[] = [$one];
            }
        }

        return $groups;
    }

    /**
     * What all of them ask for together.
     *
     * @param  list<self>  $all
     */
    public static function sentence(FactKind $kind, array $all): string
    {
        $groups = array_map(static fn (array $group): string => implode(' or ', array_map(
            static fn (self $c): string => $c->words($kind),
            $group,
        )), self::groups($all));

        return implode(count($groups) < count($all) ? ', and ' : ' and ', $groups);
    }

    /** @return array{fact: string, test: string, value: string, or: bool} */
    public function stored(): array
    {
        return ['fact' => $this->fact, 'test' => $this->test->value, 'value' => $this->value, 'or' => $this->or];
    }

    public function words(FactKind $kind): string
    {
        $label = Catalogue::of($kind)[$this->fact]->label ?? $this->fact;
        // A word of capitals stays one.
        $label = preg_match('/\A\p{Lu}{2}/u', $label) === 1 ? $label : lcfirst($label);

        return $this->test->takesValue() ? "$label {$this->test->words()} $this->value" : "$label {$this->test->words()}";
    }
}
