<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Client;

use HarborPost\Core\Dhcp\V4\Packet;

/** Clients that are served alike: those for which all conditions hold, or any of them. */
final readonly class ClientClass
{
    /** @param  non-empty-list<Condition>  $conditions */
    private function __construct(public string $id, public string $name, public bool $any, public array $conditions)
    {
    }

    /**
     * @param  list<array{field: string, is: string, value: string}>  $rows
     *
     * @throws BadCondition
     */
    public static function of(string $id, string $name, bool $any, array $rows): self
    {
        $conditions = array_map(static fn (array $r): Condition => Condition::of($r['field'], $r['is'], $r['value']), $rows);

        return $conditions === []
            ? throw BadCondition::of('a class without a condition holds for everybody')
            : new self($id, $name, $any, $conditions);
    }

    public function matches(Packet $packet): bool
    {
        foreach ($this->conditions as $condition) {
            if ($condition->matches($packet) === $this->any) {
                return $this->any;
            }
        }

        return ! $this->any;
    }

    /** @return list<array{words: string, seen: ?string, holds: bool}> each condition, and what the packet says of it */
    public function why(Packet $packet): array
    {
        return array_map(
            static fn (Condition $c): array => ['words' => $c->words(), 'seen' => $c->seen($packet), 'holds' => $c->matches($packet)],
            $this->conditions,
        );
    }

    public function words(): string
    {
        return implode($this->any ? ' or ' : ' and ', array_map(static fn (Condition $c): string => $c->words(), $this->conditions));
    }
}
