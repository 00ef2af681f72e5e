<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Family;

/**
 * The registered options and those that an organisation defined for itself. What is typed by a definition of one's own is kept as its
 * bytes, so that another definition changes how they are read and never what is sent.
 */
final readonly class OptionBook
{
    /** @param  array<int, array<int, Definition>>  $own  family → code → definition */
    private function __construct(private array $own)
    {
    }

    /** @param  iterable<array{Family, int, string, OwnShape}>  $rows  family, code, name, shape */
    public static function of(iterable $rows): self
    {
        $own = [];
        foreach ($rows as [$family, $code, $name, $shape]) {
            $own[$family->value][$code] = new Definition($code, $name, $shape->of($family), 'defined here');
        }

        return new self($own);
    }

    public function own(int $code, Family $family): ?Definition
    {
        return $this->own[$family->value][$code] ?? null;
    }

    /** @throws BadOption when there can be no such code */
    public function definition(int $code, Family $family = Family::V4): Definition
    {
        return $this->own($code, $family) ?? OptionTable::definition($code, $family);
    }

    /** @return list<Definition> in the order of codes */
    public function all(Family $family = Family::V4): array
    {
        $all = [];
        foreach ([...OptionTable::all($family), ...$this->own[$family->value] ?? []] as $definition) {
            $all[$definition->code] = $definition;
        }
        ksort($all);

        return array_values($all);
    }

    /**
     * What somebody typed, as the values that are kept.
     *
     * @return list<string>
     *
     * @throws BadOption
     */
    public function typed(int $code, string $text, Family $family = Family::V4): array
    {
        $own = $this->own($code, $family);
        if ($own === null) {
            return OptionTable::split($code, $text, $family);
        }
        $values = OptionTable::splitAs($own->shape, $text);
        if ($values === [] || str_starts_with($values[0], OptionTable::RAW)) {
            return $values;
        }
        try {
            return [OptionTable::RAW.bin2hex($own->shape->encode($values))];
        } catch (BadOption $e) {
            throw $e->ofCode($code);
        }
    }

    /** Values for people; bytes that do not have the shape are shown as hex with the fault. */
    public function meaning(int $code, string $payload, Family $family = Family::V4): string
    {
        $own = $this->own($code, $family);
        if ($own === null) {
            return OptionTable::meaning($code, $payload, $family);
        }
        try {
            return implode(', ', $own->shape->decode($payload));
        } catch (BadOption $e) {
            return Hex::spaced($payload)." ({$e->ofCode($code)->getMessage()})";
        }
    }

    /**
     * Values as they are kept, for people.
     *
     * @param  list<string>  $values
     */
    public function words(int $code, array $values, Family $family = Family::V4): string
    {
        $raw = count($values) === 1 && str_starts_with($values[0], OptionTable::RAW) && $this->own($code, $family) !== null;

        return $raw ? $this->meaning($code, (string) hex2bin(substr($values[0], 2)), $family) : implode(', ', $values);
    }
}
