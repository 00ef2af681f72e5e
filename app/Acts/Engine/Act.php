<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Person;
use App\Models\Power;
use App\Queries\RoleLimits;
use Illuminate\Support\Str;

/**
 * One act that writes: a typed input, who may, and what it does.
 *
 * Concrete acts are final and readonly; their constructor parameters are the input, of scalar and array types, so that a form,
 * a program, an import and a draft all carry the same thing. Ids of what they make are minted in the input.
 */
abstract readonly class Act
{
    /** One line that says what the act does, for buttons, drafts and history. */
    abstract public function title(): string;

    abstract public static function may(Person $person): bool;

    /** May they, in those of their roles that still have the power which it needs? */
    final public static function permits(Person $person): bool
    {
        return static::may(RoleLimits::narrow($person, static::power()));
    }

    final public static function power(): ?Power
    {
        return Powers::of(static::class);
    }

    /** Writes, inside a transaction that the runner opened. */
    abstract public function apply(Ledger $ledger): void;

    /** The page to show when it is done. */
    public function landing(): string
    {
        return '/';
    }

    /** The draft that it ends, when it stands at the end of one. */
    public function ofDraft(): ?string
    {
        return null;
    }

    /**
     * Does it change the plan, so that rules of agreement ask about it? What servers tell, what is shipped and drafts themselves do not.
     */
    public static function governed(): bool
    {
        return ! in_array(explode('\\', static::class)[2] ?? '', ['Ship', 'Imports', 'Drafts', 'Scan'], true);
    }

    /** Does it open doors to somebody, so that who does it says the password once more? */
    public static function guarded(): bool
    {
        return false;
    }

    /** The same of this one, where it depends on what it is about. */
    public function opensDoors(): bool
    {
        return static::guarded();
    }

    public static function key(): string
    {
        return Str::kebab(class_basename(static::class));
    }

    /**
     * From a form, a program or a draft, by what the act declares.
     *
     * @param  array<mixed>  $input
     *
     * @throws BadInput
     */
    public static function fromInput(array $input): static
    {
        // Concrete acts are final, so the constructor is theirs.
        return (new \ReflectionClass(static::class))->newInstanceArgs(Inputs::read(static::class, $input));
    }

    /** @return array<string, mixed> what fromInput() takes */
    public function toInput(): array
    {
        return get_object_vars($this);
    }
}
