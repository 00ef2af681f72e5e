<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange;

use HarborPost\Core\Dns\Name;

/**
 * The path of a question from a client through the servers it was given, computed from their settings: who asks whom, where it ends,
 * what that verdict means, and what it exposes.
 */
final readonly class QueryPath
{
    public const OWN = 'own zones';

    public const FORWARDER = 'by a forwarder';

    public const ROOTS = 'by the roots';

    public const NOTHING = 'nothing';

    /**
     * @param  list<array{from: string, to: string, address: string, state: string, words: string}>  $hops  in the order they are tried;
     *     state: asked, answered, silent, refused, loop
     * @param  self::*  $verdict
     */
    private function __construct(public array $hops, public string $verdict, public string $words, public ?string $exposure)
    {
    }

    /**
     * @param  list<string>  $resolvers  addresses that the client was given, in order
     * @param  array<string, PathServer>  $servers  by address
     */
    public static function of(Name $question, array $resolvers, array $servers): self
    {
        $hops = [];
        $by = self::OWN;
        $words = 'no resolver was given to the client';
        foreach ($resolvers as $address) {
            $words = 'none of its resolvers answers';
            $result = self::ask($question, 'the client', $address, $servers, [], $hops);
            if ($result !== null) {
                [$by, $words] = $result;

                return new self($hops, $by, $words, self::exposure($by, $words, $hops));
            }
        }

        return new self($hops, self::NOTHING, $words, 'names do not resolve for this client at all');
    }

    /**
     * @param  array<string, PathServer>  $servers
     * @param  list<string>  $above  addresses already on the way, so that a loop is seen
     * @param  list<array{from: string, to: string, address: string, state: string, words: string}>  $hops
     * @return array{self::*, string}|null null when it does not answer
     */
    private static function ask(Name $question, string $from, string $address, array $servers, array $above, array &$hops): ?array
    {
        $server = $servers[$address] ?? null;
        $to = $server->name ?? $address;
        $hop = static function (string $state, string $words) use (&$hops, $from, $to, $address): void {
            $hops[] = ['from' => $from, 'to' => $to, 'address' => $address, 'state' => $state, 'words' => $words];
        };
        if (in_array($address, $above, true)) {
            $hop('loop', "$to asks itself by way of others; the question goes round until somebody gives up");

            return null;
        }
        if ($server === null) {
            // A server outside: nothing is known of it but that it is asked.
            $hop('asked', 'outside; what it does is not ours to know');

            return [self::FORWARDER, "$to answers, outside our servers"];
        }
        if (! $server->on) {
            $hop('silent', 'does not answer; the next one is tried after a few seconds');

            return null;
        }
        $zone = self::zone($question, $server);
        if ($zone !== null) {
            $hop('answered', 'answers with authority from '.(rtrim((string) $zone, '.') ?: 'the root'));

            return [self::OWN, "$server->name answers from its own zone ".(rtrim((string) $zone, '.') ?: '.')];
        }
        if (! $server->recursion) {
            $hop(
                'refused',
                'has no such zone and does not ask others'
                    .($server->forwarders === [] ? '' : '; its forwarders are dead with recursion off'),
            );

            return [self::NOTHING, "$server->name refuses: the name is in none of its zones and recursion is off"];
        }
        $special = self::special($question, $server);
        if ($special !== null) {
            return self::askSpecial($question, $server, $special, $servers, [...$above, $address], $hops, $hop);
        }
        $hop(
            'asked',
            $server->forwarders === []
                ? 'asks the roots'
                : 'asks its '.(count($server->forwarders) === 1 ? 'forwarder' : 'forwarders in order'),
        );
        foreach ($server->forwarders as $forwarder) {
            $result = self::ask($question, $server->name, $forwarder, $servers, [...$above, $address], $hops);
            if ($result !== null) {
                return $result[0] === self::OWN ? [self::FORWARDER, "$server->name gets it from a forwarder: $result[1]"] : $result;
            }
        }
        if ($server->forwarders !== [] && ! $server->fallback) {
            return [self::NOTHING, "$server->name gives up: no forwarder answers, and it may not ask the roots"];
        }
        if (! $server->hints) {
            return [self::NOTHING, "$server->name would ask the roots, but has no root hints"];
        }
        $hops[] = ['from' => $server->name, 'to' => 'the roots', 'address' => '', 'state' => 'asked', 'words' => 'by its root hints'];

        return [self::ROOTS, "$server->name asks the roots itself"];
    }

    /**
     * A forwarded zone or a stub is asked of its own servers and of nobody else.
     *
     * @param  array{zone: Name, kind: string, addresses: list<string>}  $special
     * @param  array<string, PathServer>  $servers
     * @param  list<string>  $above
     * @param  list<array{from: string, to: string, address: string, state: string, words: string}>  $hops
     * @param  \Closure(string, string): void  $hop
     * @return array{self::*, string}
     */
    private static function askSpecial(
        Name $question,
        PathServer $server,
        array $special,
        array $servers,
        array $above,
        array &$hops,
        \Closure $hop,
    ): array {
        $zone = rtrim((string) $special['zone'], '.');
        $hop('asked', $special['kind'] === 'stub' ? "asks the name servers of its stub $zone" : "forwards $zone to servers of its own");
        foreach ($special['addresses'] as $address) {
            $result = self::ask($question, $server->name, $address, $servers, $above, $hops);
            if ($result !== null) {
                return $result[0] === self::OWN
                    ? [self::FORWARDER, "$server->name gets it by its {$special['kind']} zone $zone: $result[1]"]
                    : $result;
            }
        }

        return [self::NOTHING, "$server->name gives up: no server of its {$special['kind']} zone $zone answers"];
    }

    /** @return array{zone: Name, kind: string, addresses: list<string>}|null */
    private static function special(Name $question, PathServer $server): ?array
    {
        $best = null;
        foreach ($server->special as $special) {
            $best = $question->isIn($special['zone']) && ($best === null || $special['zone']->isIn($best['zone'])) ? $special : $best;
        }

        return $best;
    }

    private static function zone(Name $question, PathServer $server): ?Name
    {
        $best = null;
        foreach ($server->zones as $zone) {
            if ($question->isIn($zone) && ($best === null || $zone->isIn($best))) {
                $best = $zone;
            }
        }

        return $best;
    }

    /** @param  list<array{from: string, to: string, address: string, state: string, words: string}>  $hops */
    private static function exposure(string $by, string $words, array $hops): ?string
    {
        $inner = array_values(array_filter($hops, static fn (array $h): bool => $h['to'] === 'the roots'))[0]['from'] ?? null;
        $silent = array_filter($hops, static fn (array $h): bool => $h['state'] === 'silent' && $h['from'] !== 'the client') !== [];

        return match (true) {
            $by === self::ROOTS && $silent => "$inner talks to the internet itself now that its forwarder is silent: "
                .'it needs a way out, and outsiders learn what is asked inside',
            $by === self::ROOTS => "$inner talks to the internet itself: outsiders learn what is asked inside",
            $by === self::NOTHING => 'an outage: '.$words,
            array_filter(
                $hops,
                static fn (array $h): bool => $h['words'] === 'outside; what it does is not ours to know',
            ) !== [] => 'the server outside learns every name that is asked',
            default => null,
        };
    }
}
