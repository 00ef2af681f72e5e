<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Model;
use App\Models\Person;
use App\Queries\Reach;
use Illuminate\Support\Str;

/** The declared inputs of acts: read from what a form, a program or a draft sent, and the objects that they name looked for in reach. */
final class Inputs
{
    /** @var array<class-string<Act>, array<string, Field>> */
    private static array $fields = [];

    /**
     * @param  class-string<Act>  $act
     * @return array<string, Field> parameter → its declaration
     */
    public static function of(string $act): array
    {
        if (! isset(self::$fields[$act])) {
            self::$fields[$act] = [];
            foreach ((new \ReflectionClass($act))->getConstructor()?->getParameters() ?? [] as $parameter) {
                foreach ($parameter->getAttributes(Field::class) as $attribute) {
                    self::$fields[$act][$parameter->getName()] = $attribute->newInstance();
                }
            }
        }

        return self::$fields[$act];
    }

    /**
     * Constructor arguments: blanks are the parameter's default, everything else is what the declaration says or a fault.
     *
     * @param  class-string<Act>  $act
     * @param  array<mixed>  $input
     * @return array<string, mixed>
     *
     * @throws BadInput
     */
    public static function read(string $act, array $input): array
    {
        $fields = self::of($act);
        $arguments = $faults = [];
        foreach ((new \ReflectionClass($act))->getConstructor()?->getParameters() ?? [] as $parameter) {
            $name = $parameter->getName();
            $field = $fields[$name] ?? null;
            $value = $input[$name] ?? null;
            unset($input[$name]);
            $blank = $value === null || $value === '';
            if ($field?->kind === Kind::NewId && $blank) {
                $arguments[$name] = (string) Str::ulid();
            } elseif ($blank && $parameter->isOptional()) {
                $arguments[$name] = $value === ''
                    && ((string) $parameter->getType() === 'string' || $field?->blank === true) ? '' : $parameter->getDefaultValue();
            } elseif ($field === null) {
                $arguments[$name] = $value;
            } else {
                try {
                    $arguments[$name] = $blank
                        && $field->kind === Kind::Choice
                            ? throw new NotAccepted('one of '.implode(', ', $field->choices).' belongs here')
                            : $field->read($value);
                } catch (NotAccepted $e) {
                    $faults[] = new Note(
                        NoteVerdict::Blocked, 'bad-input', "$field->label: {$e->getMessage()}", $field->help, field: $name,
                    );
                }
            }
        }
        foreach (array_keys($input) as $unknown) {
            $key = mb_scrub(mb_strimwidth((string) $unknown, 0, 40, '…'), 'UTF-8');
            $faults[] = new Note(
                NoteVerdict::Blocked,
                'unknown-input',
                "\"$key\" is not asked for here",
                'Known are '.implode(', ', array_keys($fields)).'.',
            );
        }
        if ($faults !== []) {
            throw new BadInput($faults);
        }

        return $arguments;
    }

    /** What an act is called, for somebody who may see everything that its name may speak of. */
    public static function titleFor(Person $person, Act $act): string
    {
        $ledger = new Ledger($person, now()->toDateTimeImmutable());
        try {
            self::objectsInReach($ledger, $act);
        } catch (Refused) {
            return ucfirst(str_replace('-', ' ', $act::key()));
        }

        return $act->title();
    }

    /** Every object that an input names is there, and the person may see it; else the act ends before any work. */
    public static function objectsInReach(Ledger $ledger, Act $act): void
    {
        foreach (self::of($act::class) as $name => $field) {
            $value = $act->toInput()[$name] ?? null;
            if ($field->of === null || $value === null || $value === '' || $value === [] || $value === '-') {
                continue;
            }
            $ids = array_values(array_unique((array) $value));
            $found = 0;
            foreach (array_chunk($ids, 5000) as $chunk) {
                $found += self::rows($ledger, $field->of)?->whereKey($chunk)->count() ?? 0;
            }
            if ($found !== count($ids)) {
                $what = strtolower($field->label);
                $ledger->refuse(
                    'not-available',
                    count($ids) === 1
                        ? "This $what is not available to you"
                        : 'Of the '.count($ids)." chosen $what ".(count($ids) - $found).' are gone or not available to you',
                    'Look again: somebody may have removed it meanwhile.',
                    field: $name,
                );
            }
        }
    }

    /**
     * @param  class-string<Model>  $class
     * @return \Illuminate\Database\Eloquent\Builder<covariant Model>|null
     */
    private static function rows(Ledger $ledger, string $class): ?\Illuminate\Database\Eloquent\Builder
    {
        $whole = $ledger->person === null || ! $ledger->person->isBound();

        return match (true) {
            // Who left is named by nothing that is done now.
            $whole && $class === Person::class => Person::query()->whereNull('removed_at'),
            $whole => $class::query(),
            default => Reach::of($ledger->person)->ofNoun($class::noun()),
        };
    }
}
