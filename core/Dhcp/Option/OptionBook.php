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
    /**
     * @param  array<int, array<int, Definition>>  $own  family → code → definition
     * @param  list<VendorTemplate>  $templates
     */
    private function __construct(private array $own, private array $templates)
    {
    }

    /**
     * @param  iterable<array{Family, int, string, OwnShape}>  $rows  family, code, name, shape
     * @param  list<VendorTemplate>  $templates
     */
    public static function of(iterable $rows, array $templates = []): self
    {
        $own = [];
        foreach ($rows as [$family, $code, $name, $shape]) {
            $own[$family->value][$code] = new Definition($code, $name, $shape->of($family), 'defined here');
        }

        // Of several that a client's class begins with, the one that says most is meant.
        usort($templates, static fn (VendorTemplate $a, VendorTemplate $b): int => strlen($b->vendorClass) <=> strlen($a->vendorClass));

        return new self($own, $templates);
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

    /** What a client of that vendor class (option 60) reads an encapsulated option by; null where nobody described it. */
    public function template(int $code, string $payload, Family $family, string $vendorClass = ''): ?VendorTemplate
    {
        foreach ($this->templates as $template) {
            if ($template->family !== $family || $template->code() !== $code) {
                continue;
            }
            $mark = $template->enterprise === null ? null : pack('N', $template->enterprise);
            if ($mark === null ? $template->isFor($vendorClass) : str_contains($payload, $mark) && $template->words($payload) !== '') {
                return $template;
            }
        }

        return null;
    }

    /** Values for people; bytes that do not have the shape are shown as hex with the fault. */
    public function meaning(int $code, string $payload, Family $family = Family::V4, string $vendorClass = ''): string
    {
        $template = $this->template($code, $payload, $family, $vendorClass);
        if ($template !== null) {
            return $template->words($payload);
        }
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
    public function words(int $code, array $values, Family $family = Family::V4, string $vendorClass = ''): string
    {
        $described = $this->described($code, $values, $family, $vendorClass);
        if ($described !== null) {
            return $described;
        }
        $raw = count($values) === 1 && str_starts_with($values[0], OptionTable::RAW) && $this->own($code, $family) !== null;

        return $raw ? $this->meaning($code, (string) hex2bin(substr($values[0], 2)), $family) : implode(', ', $values);
    }

    /** @param  list<string>  $values */
    private function described(int $code, array $values, Family $family, string $vendorClass): ?string
    {
        $carries = array_filter(
            $this->templates,
            static fn (VendorTemplate $t): bool => $t->family === $family && $t->code() === $code,
        ) !== [];
        if ($values === [] || ! $carries) {
            return null;
        }
        try {
            $payload = OptionTable::encode($code, $values, $family);
        } catch (BadOption) {
            return null;
        }

        return $this->template($code, $payload, $family, $vendorClass)?->words($payload);
    }
}
