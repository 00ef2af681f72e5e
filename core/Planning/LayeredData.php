<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning;

/**
 * Structured values set at several layers, merged from the outermost in: maps are merged key by key, everything else is replaced by the
 * nearer layer. Of each value it is known where it comes from.
 */
final readonly class LayeredData
{
    /**
     * @param  array<mixed>  $data
     * @param  array<string, string>  $origins  path, its keys apart by dots → the layer whose value stands there
     */
    private function __construct(public array $data, public array $origins)
    {
    }

    /** @param  iterable<array{string, array<mixed>}>  $layers  what each is called and what is set there, the outermost first */
    public static function of(iterable $layers): self
    {
        $data = $origins = [];
        foreach ($layers as [$name, $set]) {
            self::merge($data, $origins, $set, $name, '');
        }

        return new self($data, $origins);
    }

    /**
     * @param  array<mixed>  $data
     * @param  array<string, string>  $origins
     * @param  array<mixed>  $set
     */
    private static function merge(array &$data, array &$origins, array $set, string $name, string $above): void
    {
        foreach ($set as $key => $value) {
            $path = $above === '' ? (string) $key : "$above.$key";
            if (is_array($value) && self::isMap($value) && is_array($data[$key] ?? null) && self::isMap($data[$key])) {
                self::merge($data[$key], $origins, $value, $name, $path);

                continue;
            }
            foreach (array_keys($origins) as $old) {
                if ($old === $path || str_starts_with((string) $old, "$path.")) {
                    unset($origins[$old]);
                }
            }
            $data[$key] = $value;
            self::note($origins, $value, $name, $path);
        }
    }

    /** @param  array<string, string>  $origins */
    private static function note(array &$origins, mixed $value, string $name, string $path): void
    {
        if (! is_array($value) || ! self::isMap($value) || $value === []) {
            $origins[$path] = $name;

            return;
        }
        foreach ($value as $key => $inner) {
            self::note($origins, $inner, $name, "$path.$key");
        }
    }

    /** @param  array<mixed>  $value */
    private static function isMap(array $value): bool
    {
        return $value === [] || ! array_is_list($value);
    }
}
