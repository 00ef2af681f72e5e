<?php

declare(strict_types=1);

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Exchange\PathServer;
use HarborPost\Core\Exchange\QueryPath;

/** edge (forwards to inner, may not ask the roots), inner (holds kittiwake.example, forwards to outer), outer (asks the roots).
 * @param  array<string, array<string, mixed>>  $changes  name → parameters
 * @return array<string, PathServer>
 */
function pathServers(array $changes = []): array
{
    $servers = [];
    foreach ([
        'edge' => ['address' => '10.0.0.1', 'recursion' => true, 'forwarders' => ['10.0.0.2'], 'fallback' => false, 'hints' => true],
        'inner' => [
            'address' => '10.0.0.2', 'zones' => [Name::parse('kittiwake.example.'), Name::parse('ops.kittiwake.example.')],
            'recursion' => true, 'forwarders' => ['10.0.0.3'], 'fallback' => true, 'hints' => true,
        ],
        'outer' => ['address' => '10.0.0.3', 'recursion' => true, 'hints' => true],
    ] as $name => $parameters) {
        $server = new PathServer(...(['name' => $name] + ($changes[$name] ?? []) + $parameters));
        $servers[$server->address] = $server;
    }

    return $servers;
}

it('follows a question to where it ends, and says what that exposes', function (
    string $name,
    array $changes,
    string $verdict,
    string $words,
    ?string $exposure,
): void {
    $path = QueryPath::of(Name::parse($name), ['10.0.0.1'], pathServers($changes));
    expect($path->verdict)->toBe($verdict)->and($path->words)->toContain($words);
    $exposure === null ? expect($path->exposure)->toBeNull() : expect($path->exposure)->toContain($exposure);
})->with([
    'own zone, by way of the edge' => [
        'www.ops.kittiwake.example.', [], QueryPath::FORWARDER, 'answers from its own zone ops.kittiwake.example', null,
    ],
    'the world, by the outer server' => ['www.example.net.', [], QueryPath::ROOTS, 'outer asks the roots', 'outer talks to the internet'],
    'the outer one down: the inner asks the internet itself' => [
        'www.example.net.', ['outer' => ['on' => false]], QueryPath::ROOTS, 'inner asks the roots',
        'inner talks to the internet itself now that its forwarder is silent',
    ],
    'the outer one down and no fallback' => [
        'www.example.net.', ['outer' => ['on' => false], 'inner' => ['fallback' => false]], QueryPath::NOTHING, 'gives up', 'an outage',
    ],
    'no hints' => ['www.example.net.', ['outer' => ['hints' => false]], QueryPath::NOTHING, 'no root hints', 'an outage'],
    'recursion off kills the forwarders' => [
        'www.example.net.', ['inner' => ['recursion' => false]], QueryPath::NOTHING, 'recursion is off', 'an outage',
    ],
    'recursion off, own zone' => [
        'kittiwake.example.', ['inner' => ['recursion' => false]], QueryPath::FORWARDER, 'own zone kittiwake.example', null,
    ],
    'the first resolver down' => [
        'www.example.net.', ['edge' => ['on' => false]], QueryPath::NOTHING, 'none of its resolvers answers', 'do not resolve',
    ],
    'a loop' => [
        'www.example.net.', ['inner' => ['forwarders' => ['10.0.0.1'], 'fallback' => false]], QueryPath::NOTHING, 'gives up',
        'an outage',
    ],
    'a forwarded zone' => [
        'www.partner.example.',
        ['inner' => ['special' => [['zone' => Name::parse('partner.example.'), 'kind' => 'forwarded', 'addresses' => ['10.0.0.3']]]]],
        QueryPath::ROOTS,
        'outer asks the roots',
        'outer talks',
    ],
    'a stub whose server is down' => [
        'www.partner.example.',
        [
            'edge' => ['special' => [['zone' => Name::parse('partner.example.'), 'kind' => 'stub', 'addresses' => ['10.0.0.3']]]],
            'outer' => ['on' => false],
        ],
        QueryPath::NOTHING,
        'no server of its stub zone partner.example answers',
        'an outage',
    ],
    'somebody outside' => [
        'www.example.net.', ['outer' => ['forwarders' => ['198.51.100.1']]], QueryPath::FORWARDER, '198.51.100.1 answers, outside',
        'learns every name',
    ],
]);

it('asks the client\'s resolvers in order and draws every hop', function (): void {
    $path = QueryPath::of(Name::parse('kittiwake.example.'), ['10.0.0.1', '10.0.0.2'], pathServers(['edge' => ['on' => false]]));
    expect($path->verdict)->toBe(QueryPath::OWN)->and(array_column($path->hops, 'state'))->toBe(['silent', 'answered'])
        ->and(QueryPath::of(Name::parse('a.'), [], [])->verdict)->toBe(QueryPath::NOTHING);
    $loop = QueryPath::of(
        Name::parse('www.example.net.'),
        ['10.0.0.1'],
        pathServers(['inner' => ['forwarders' => ['10.0.0.1'], 'fallback' => false]]),
    );
    expect(array_column($loop->hops, 'state'))->toBe(['asked', 'asked', 'loop']);
});
