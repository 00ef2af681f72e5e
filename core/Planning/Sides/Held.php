<?php

declare(strict_types=1);

namespace HarborPost\Core\Planning\Sides;

/** A prefix as one of two systems holds it, with the values that both know. */
final readonly class Held
{
    /** what is compared of each, in words */
    public const VALUES = ['name' => 'name', 'gateway' => 'gateway', 'resolvers' => 'name servers', 'leases' => 'lease servers'];

    /**
     * @param  string  $prefix  as the system writes it, which may be nothing that can be read
     * @param  bool  $groups  holds others, and no hosts
     * @param  array<string, list<string>>  $values  by the keys of VALUES; an empty list is none
     */
    public function __construct(public string $id, public string $prefix, public bool $groups, public array $values = [])
    {
    }

    /** @return list<string> of a value, in the order that does not matter */
    public function value(string $key): array
    {
        $list = array_values(array_filter(array_map(trim(...), $this->values[$key] ?? []), static fn (string $v): bool => $v !== ''));
        $key === 'resolvers' ?: sort($list);

        return $list;
    }
}
