<?php

declare(strict_types=1);

use HarborPost\Core\Exchange\LinkOrder;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/** @return list<string> the order, for subnets in which the three questions are answered with yes */
function linkOrder(array $reserved = [], array $held = [], array $asked = []): array
{
    $scopes = array_map(
        fn (string $net): object => (object) ['net' => $net],
        ['192.0.2.0/26', '192.0.2.64/26', '192.0.2.128/26', '192.0.2.192/26'],
    );
    $in = fn (array $of): Closure => fn (object $s): bool => in_array($s->net, $of, true);

    return array_map(fn (object $s): string => $s->net, LinkOrder::of($scopes, $in($reserved), $in($held), $in($asked)));
}

it('begins with the subnet of the relay and goes on in order', function (): void {
    expect(linkOrder())->toBe(['192.0.2.0/26', '192.0.2.64/26', '192.0.2.128/26', '192.0.2.192/26']);
});

it('looks first where something is reserved, then where the client was, then where it asks to be', function (): void {
    expect(linkOrder(['192.0.2.192/26'], ['192.0.2.128/26'], ['192.0.2.64/26']))
        ->toBe(['192.0.2.192/26', '192.0.2.128/26', '192.0.2.64/26', '192.0.2.0/26'])
        ->and(linkOrder(held: ['192.0.2.128/26'], asked: ['192.0.2.128/26']))
        ->toBe(['192.0.2.128/26', '192.0.2.0/26', '192.0.2.64/26', '192.0.2.192/26'])
        ->and(linkOrder(['192.0.2.0/26', '192.0.2.64/26'])[0])->toBe('192.0.2.0/26');
});

it('finds the subnet of an address on the link', function (): void {
    $nets = array_map(fn (string $n): Prefix => Prefix::parse($n), ['192.0.2.0/26', '192.0.2.64/26']);
    $at = fn (string $a): ?Prefix => LinkOrder::at(Address::parse($a), $nets, fn (Prefix $p): Prefix => $p);
    expect((string) $at('192.0.2.64'))->toBe('192.0.2.64/26')->and((string) $at('192.0.2.63'))->toBe('192.0.2.0/26')
        ->and($at('192.0.2.128'))->toBeNull();
});
