<?php

declare(strict_types=1);

namespace App\Api;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;

/** A body to begin with: what an act needs, as it declares it. */
final class Example
{
    /** @param  class-string<Act>  $act */
    public static function of(string $act): string
    {
        $fields = Inputs::of($act);
        $input = [];
        foreach ((new \ReflectionClass($act))->getConstructor()?->getParameters() ?? [] as $parameter) {
            $field = $fields[$parameter->getName()] ?? null;
            if ($field !== null && ! $parameter->isOptional()) {
                $input[$parameter->getName()] = self::value($field);
            }
        }

        return (string) json_encode(
            ['input' => $input === [] ? new \stdClass : $input, 'rehearse' => true],
            JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE,
        );
    }

    private static function value(Field $field): mixed
    {
        $example = $field->example !== '' ? $field->example : mb_strtolower($field->label);

        return match ($field->kind) {
            Kind::Choice => $field->choices[0] ?? '',
            Kind::Number => $field->least,
            Kind::Flag => true,
            Kind::Id => 'an id, or what is known of it',
            Kind::Ids => ['an id, or what is known of it'],
            Kind::Texts, Kind::Lines => [$example],
            Kind::Map => new \stdClass,
            default => $example,
        };
    }
}
