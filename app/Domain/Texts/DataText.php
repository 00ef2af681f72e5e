<?php

declare(strict_types=1);

namespace App\Domain\Texts;

use Symfony\Component\Yaml\Exception\ParseException;
use Symfony\Component\Yaml\Yaml;

/** Data for templates as people write it: YAML, of which JSON is a part. A map of values, and no objects. */
final class DataText
{
    private const DEPTH = 12;

    /**
     * @return array<mixed>
     *
     * @throws TextFault with the line
     */
    public static function read(string $text): array
    {
        try {
            $data = Yaml::parse($text, Yaml::PARSE_EXCEPTION_ON_INVALID_TYPE) ?? [];
        } catch (ParseException $e) {
            throw new TextFault(($e->getParsedLine() > 0 ? "line {$e->getParsedLine()}: " : '').rtrim($e->getMessage(), '.').'.');
        }
        if (! is_array($data) || $data !== [] && array_is_list($data)) {
            throw new TextFault('A map is meant: each value by its name, as "ntp: 10.32.0.1".');
        }
        if (self::depth($data) > self::DEPTH) {
            throw new TextFault('It goes deeper than '.self::DEPTH.' levels.');
        }

        return $data;
    }

    /** @param  array<mixed>  $data */
    private static function depth(array $data): int
    {
        $deepest = 0;
        foreach ($data as $value) {
            $deepest = is_array($value) ? max($deepest, self::depth($value)) : $deepest;
        }

        return $deepest + 1;
    }
}
