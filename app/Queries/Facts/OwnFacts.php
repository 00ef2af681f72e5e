<?php

declare(strict_types=1);

namespace App\Queries\Facts;

use App\Models\OwnField;

/** The team's own fields of prefixes as facts; read once a request, or once a job. */
final class OwnFacts
{
    /** @var ?array<string, Fact> */
    private ?array $facts = null;

    /** @return array<string, Fact> */
    public function all(): array
    {
        return $this->facts ??= OwnField::query()->orderBy('name')->get()->mapWithKeys(static fn (OwnField $field): array => [
            "own-$field->id" => self::fact($field),
        ])->all();
    }

    private static function fact(OwnField $field): Fact
    {
        // An id of ours is digits and capitals.
        $id = preg_replace('/[^0-9A-Z]/', '', $field->id);
        /** @var literal-string $sql */
        $sql = "JSON_VALUE(p.own, '$.\"$id\"')";

        return new Fact($field->name, $sql, $field->kind === 'number' ? FactType::Number : FactType::Text);
    }
}
