<?php

declare(strict_types=1);

namespace App\Actions;

use App\Models\Person;
use Illuminate\Support\Str;

/**
 * One act that writes: a typed input, who may, and what it does.
 *
 * Concrete acts are final and readonly; their constructor parameters are the input, of scalar and array types, so that a form,
 * a program, an import and a draft all carry the same thing. Ids of what they make are minted in the input.
 */
abstract readonly class Action
{
    /** One line that says what the act does, for buttons, drafts and history. */
    abstract public function title(): string;

    abstract public function may(Person $person): bool;

    /** Writes, inside a transaction that the runner opened. */
    abstract public function apply(Ledger $ledger): void;

    /** The page to show when it is done. */
    public function landing(): string
    {
        return '/';
    }

    public static function key(): string
    {
        return Str::kebab(class_basename(static::class));
    }

    /**
     * From a form or JSON: unknown keys are ignored, blanks are the parameter's default, numbers are read from text.
     *
     * @param  array<mixed>  $input
     */
    public static function fromInput(array $input): static
    {
        $arguments = [];
        foreach ((new \ReflectionClass(static::class))->getConstructor()?->getParameters() ?? [] as $parameter) {
            $name = $parameter->getName();
            $type = $parameter->getType();
            $type = $type instanceof \ReflectionNamedType ? $type : null;
            $value = $input[$name] ?? null;
            if ($name === 'id' && ($value === null || $value === '') && $parameter->isOptional()) {
                $value = (string) Str::ulid();
            }
            if (($value === null || $value === '') && $parameter->isOptional()) {
                $default = $parameter->getDefaultValue();
                $arguments[$name] = $value === '' && $type?->getName() === 'string' && ! $type->allowsNull() ? '' : $default;

                continue;
            }
            $arguments[$name] = self::cast($value, $type);
        }

        // Concrete acts are final, so the constructor is theirs.
        return (new \ReflectionClass(static::class))->newInstanceArgs($arguments);
    }

    /** @return array<string, mixed> what fromInput() takes */
    public function toInput(): array
    {
        return get_object_vars($this);
    }

    private static function cast(mixed $value, ?\ReflectionNamedType $type): mixed
    {
        $text = is_scalar($value) ? trim((string) $value) : '';

        return match ($type?->getName()) {
            'int' => preg_match('/\A-?\d{1,18}\z/', $text) === 1 ? (int) $text : ($type->allowsNull() && $text === '' ? null : -1),
            'bool' => in_array($text, ['1', 'true', 'on', 'yes'], true),
            'array' => is_array($value) ? $value : (preg_split('/[\s,]+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: []),
            default => $text,
        };
    }
}
