<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Net\Family;

/**
 * The options of a client from the layers that it stands under. Each code has the value of the nearest layer that says something of it,
 * also when that says "none, on purpose"; what it hides is kept for showing.
 */
final readonly class OptionStack
{
    /** @param  array<int, list<StackedValue>>  $values  code → from the nearest layer out; the first one counts */
    private function __construct(private array $values)
    {
    }

    /** @param  iterable<StackedValue>  $values  from the outermost layer in */
    public static function of(iterable $values): self
    {
        $byCode = [];
        foreach ($values as $value) {
            $byCode[$value->code] = [$value, ...$byCode[$value->code] ?? []];
        }
        ksort($byCode);

        return new self($byCode);
    }

    /** @return array<int, StackedValue> code → what counts, in the order of codes; also what is empty on purpose */
    public function nearest(): array
    {
        return array_map(static fn (array $all): StackedValue => $all[0], $this->values);
    }

    /** @return list<StackedValue> what is hidden by the nearest, from the nearest out */
    public function hidden(int $code): array
    {
        return array_slice($this->values[$code] ?? [], 1);
    }

    /** @return array<int, string> code → bytes that are sent */
    public function payloads(): array
    {
        $payloads = [];
        foreach ($this->nearest() as $code => $value) {
            $bytes = $value->payload();
            if ($bytes !== null) {
                $payloads[$code] = $bytes;
            }
        }

        return $payloads;
    }

    /** @return list<int> codes that are kept from clients on purpose, although an outer layer has a value */
    public function withheld(): array
    {
        return array_keys(array_filter($this->nearest(), static fn (StackedValue $v): bool => $v->payload() === null));
    }

    /**
     * The answer to a client: what it asked for in its order (RFC 2131 §4.3.1), or all there is when it did not say.
     *
     * @param  list<int>|null  $asked
     * @return list<array{code: int, value: ?StackedValue}> null: asked for, and there is none
     */
    public function answer(?array $asked): array
    {
        $nearest = $this->nearest();
        if ($asked === null) {
            $asked = array_keys(array_filter($nearest, static fn (StackedValue $v): bool => $v->payload() !== null));
        }

        return array_map(
            static fn (int $code): array => ['code' => $code, 'value' => $nearest[$code] ?? null],
            array_values(array_unique($asked)),
        );
    }

    /** @param  list<string>  $values */
    public static function payloadOf(int $code, array $values, Family $family = Family::V4): ?string
    {
        try {
            return OptionTable::encode($code, $values, $family);
        } catch (BadOption) {
            return null;
        }
    }
}
