<?php

declare(strict_types=1);

namespace Tests\Core\Exchange;

use HarborPost\Core\Exchange\Pair\Binding;
use HarborPost\Core\Exchange\Pair\BindingState;
use HarborPost\Core\Exchange\Pair\NotNow;
use HarborPost\Core\Exchange\Pair\PairMember;
use HarborPost\Core\Exchange\Pair\PairState;
use HarborPost\Core\Exchange\Pair\PairTerms;
use HarborPost\Core\Exchange\Pair\Side;
use HarborPost\Core\Net\Address;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * Two servers of a pair, the line between them, their disks, their clients and a person who says that a partner is off: anything happens in
 * any order. What a client was told is kept here, apart from what the servers believe, and compared after every step.
 */
final class PairWorld
{
    private const WANTED = 60;

    private const LEAD = 20;

    private const SKEW = 5;

    /** How often the line is cut and mended, a server crashes, starts, is said to be off, and loses its disk. */
    private const WEIGHTS = [[5, 8, 4, 4, 2, 1], [4, 12, 3, 8, 1, 6], [8, 5, 5, 1, 12, 0], [6, 6, 3, 3, 4, 3]];

    /** @var array<int, ?PairMember> */
    private array $members = [null, null];

    /** @var array<int, array{memory: ?array<string, mixed>, bindings: array<string, array<string, mixed>>}> */
    private array $disks = [['memory' => null, 'bindings' => []], ['memory' => null, 'bindings' => []]];

    /** @var array<int, list<array{int, string}>> to whom → when it arrives, what */
    private array $wire = [[], []];

    private bool $line = false;

    /** @var array<int, bool> the one that was said to be off, until it has met the other again */
    private array $promised = [false, false];

    private int $time = 1_000_000;

    /** @var array<string, array{string, int}> client → the address it holds, and until when */
    private array $held = [];

    /** @var array<string, string> */
    private array $had = [];

    /** @var list<string> what happened, for whoever reads a failure */
    public array $story = [];

    /** @var array<string, int> */
    public array $seen = [];

    private readonly Randomizer $random;

    /** @var array<int, int> */
    private readonly array $clocks;

    private readonly int $kind;

    /** @var array<int, PairTerms> what each of the two was last given */
    private array $terms;

    /** @param  bool  $honest  false: a person says that a partner is off although it works */
    public function __construct(private readonly int $seed, private readonly bool $honest = true)
    {
        $this->terms = [self::terms($seed), self::terms($seed)];
        $this->random = new Randomizer(new Xoshiro256StarStar($seed));
        $this->kind = intdiv($seed, 3) % count(self::WEIGHTS);
        $this->clocks = [$this->random->getInt(-2, 2), $this->random->getInt(-2, 2)];
        $this->start(0);
        $this->start(1);
        $this->connect();
    }

    private static function terms(int $kind): PairTerms
    {
        return match ($kind % 4) {
            0 => PairTerms::balanced(50, self::LEAD, self::SKEW, 10),
            1 => PairTerms::balanced(80, self::LEAD, self::SKEW, 10),
            2 => PairTerms::standby(30, self::LEAD, self::SKEW, 10),
            default => PairTerms::balanced(30, 2 * self::LEAD, self::SKEW, 10),
        };
    }

    /** Other terms are given to one of the two, as a person does who ships to one server after the other. */
    private function change(int $which): null
    {
        if ($this->members[$which] !== null && $this->promised === [false, false] && intdiv($this->seed, 12) % 2 === 1) {
            $other = $this->terms[1 - $which];
            $this->cut();
            $this->off($which);
            $this->terms[$which] = $other == $this->terms[$which] ? self::terms($this->random->getInt(0, 3)) : $other;
            $this->start($which);
            $this->tell("$which is given other terms");
        }

        return null;
    }

    /** @return ?string what went wrong */
    public function run(int $steps): ?string
    {
        for ($i = 0; $i < $steps; $i++) {
            $wrong = $this->step() ?? $this->twice();
            if ($wrong !== null) {
                return $wrong;
            }
        }

        return null;
    }

    private function step(): ?string
    {
        $this->pass($this->random->getInt(0, 9) === 0 ? $this->random->getInt(5, 45) : $this->random->getInt(0, 3));
        $which = $this->random->getInt(0, 1);
        // Some histories are ordinary, some lose disks, some leave a server off for long.
        [$cut, $connect, $crash, $start, $down, $wipe] = self::WEIGHTS[$this->kind];
        $steps = [
            ['discover', 40], ['renew', 24], ['release', 8], ['decline', 2],
            ['cut', $cut], ['connect', $connect], ['crash', $crash], ['start', $start], ['partnerDown', $down], ['wipe', $wipe],
            ['change', 3],
        ];
        $roll = $this->random->getInt(0, array_sum(array_column($steps, 1)) - 1);
        foreach ($steps as [$what, $weight]) {
            if (($roll -= $weight) < 0) {
                return $this->$what($which);
            }
        }

        return null;
    }

    private function pass(int $seconds): void
    {
        for (; $seconds >= 0; $seconds--) {
            foreach ([0, 1] as $to) {
                while ($this->line && $this->wire[$to] !== [] && $this->wire[$to][0][0] <= $this->time) {
                    [, $text] = array_shift($this->wire[$to]);
                    $message = (array) json_decode($text, true);
                    $this->members[$to]?->receive($message, $this->now($to));
                    $this->settle($to);
                }
                $this->members[$to]?->tick($this->now($to));
                $this->settle($to);
            }
            $this->time += $seconds > 0 ? 1 : 0;
        }
    }

    private function now(int $which): int
    {
        return $this->time + $this->clocks[$which];
    }

    /** What changed is on disk before anything leaves. */
    private function settle(int $which): void
    {
        $member = $this->members[$which];
        if ($member === null) {
            return;
        }
        foreach ($member->keepings() as $binding) {
            $this->disks[$which]['bindings'][$binding->address] = $binding->toArray();
        }
        $this->seen[$member->state()->value] = ($this->seen[$member->state()->value] ?? 0) + 1;
        if ($member->hears() || $member->state()->isRecovering()) {
            $this->promised[$which] = false;
        }
        foreach ($member->sendings() as $message) {
            if ($this->line) {
                $last = end($this->wire[1 - $which]);
                $at = max($this->time + $this->random->getInt(0, 1), $last === false ? 0 : $last[0]);
                $this->wire[1 - $which][] = [$at, (string) json_encode($message)];
            }
        }
    }

    private function tell(string $what): void
    {
        $states = array_map(static fn (?PairMember $m): string => $m?->state()->value ?? 'off', $this->members);
        $this->story[] = "$this->time $what ($states[0] | $states[1])";
    }

    private function connect(): null
    {
        if (! $this->line && $this->members[0] !== null && $this->members[1] !== null) {
            $this->line = true;
            $this->wire = [[], []];
            foreach ([0, 1] as $which) {
                $this->members[$which]->connected($this->now($which));
                $this->settle($which);
            }
            $this->tell('connected');
        }

        return null;
    }

    private function cut(): null
    {
        // Who was promised to stay off until it can speak is not cut off before it has spoken.
        if ($this->line && $this->promised === [false, false]) {
            $this->line = false;
            $this->wire = [[], []];
            foreach ([0, 1] as $which) {
                $this->members[$which]?->lost($this->now($which));
                $this->settle($which);
            }
            $this->tell('cut');
        }

        return null;
    }

    private function crash(int $which): null
    {
        if ($this->members[$which] !== null && $this->promised === [false, false]) {
            $this->cut();
            $this->off($which);
            $this->tell("crashed $which");
        }

        return null;
    }

    /** What it remembers is what it was in when it ended: everything is kept as it happens. */
    private function off(int $which): void
    {
        $this->disks[$which]['memory'] = $this->memory($which);
        $this->members[$which] = null;
    }

    /** @return ?array<string, mixed> */
    private function memory(int $which): ?array
    {
        return $this->members[$which]?->memory() ?? $this->disks[$which]['memory'];
    }

    private function start(int $which): null
    {
        if ($this->members[$which] !== null || $this->promised[$which] && $this->members[1 - $which] === null) {
            return null;
        }
        $disk = $this->disks[$which];
        $this->members[$which] = new PairMember(
            $which === 0 ? Side::First : Side::Second,
            $this->terms[$which],
            $this->now($which),
            $disk['memory'],
            array_values(array_filter(array_map(Binding::fromArray(...), $disk['bindings']))),
        );
        $this->settle($which);
        $this->tell("started $which");
        if ($this->promised[$which]) {
            $this->connect();
        }

        return null;
    }

    private function partnerDown(int $which): null
    {
        $other = 1 - $which;
        if ($this->members[$which] === null || $this->honest && $this->members[$other] !== null || ! $this->honest && $this->line) {
            return null;
        }
        try {
            $this->members[$which]->partnerDown($this->now($which));
            $this->promised[$other] = $this->honest;
            $this->settle($which);
            $this->tell("$which is told that $other is off");
        } catch (NotNow) {
        }

        return null;
    }

    /** A server comes back without its disk, while the other one knows. */
    private function wipe(int $which): null
    {
        $memory = $this->memory(1 - $which);
        $other = PairState::tryFrom((string) ($memory['state'] ?? ''));
        $knows = $other !== null && $other->givesNew() && ($memory['blank'] ?? true) === false;
        if (! $knows || $this->promised !== [false, false]) {
            return null;
        }
        $this->crash($which);
        $this->disks[$which] = ['memory' => null, 'bindings' => []];
        $this->tell("wiped $which");

        return null;
    }

    private function client(): string
    {
        return '01'.bin2hex("\x02\0\x5e\0\0".chr($this->random->getInt(1, 8)));
    }

    private function discover(int $which): ?string
    {
        $client = $this->client();
        $member = $this->members[$which];
        $holds = ($this->held[$client][1] ?? 0) > $this->time;
        $key = (string) hex2bin($client);
        if ($member === null || $holds || ! $member->answers($key, null, $this->random->getInt(0, 4))) {
            return null;
        }
        $pool = $this->random->shuffleArray(range(1, 5));
        $wanted = isset($this->had[$client]) && $this->random->getInt(0, 1) === 1 ? [$this->had[$client]] : [];
        foreach ([...$wanted, ...array_map(static fn (int $n): string => "10.0.0.$n", $pool)] as $address) {
            $seconds = $member->give(Address::parse($address), $client, self::WANTED, $this->now($which));
            if ($seconds !== null) {
                $this->settle($which);
                $this->takes($client, $address, $seconds, $which);

                return null;
            }
        }

        return null;
    }

    private function renew(int $which): ?string
    {
        $client = $this->client();
        $member = $this->members[$which];
        [$address, $until] = $this->held[$client] ?? ['', 0];
        if ($member === null || $until <= $this->time || ! $member->state()->givesNew()) {
            return null;
        }
        $knows = $member->binding($address);
        $seconds = $member->give(Address::parse($address), $client, self::WANTED, $this->now($which));
        $this->settle($which);
        if ($seconds === null) {
            $active = $knows !== null && $knows->state === BindingState::Active && $knows->client === $client;

            return $active ? "$client holds $address and $which does not renew it" : null;
        }
        $this->takes($client, $address, $seconds, $which);

        return null;
    }

    /** The answer may be lost on its way: then the client goes by what it had. */
    private function takes(string $client, string $address, int $seconds, int $which): void
    {
        $lost = $this->random->getInt(0, 9) === 0;
        $this->tell("$which gives $address to ".substr($client, -2)." for $seconds".($lost ? ', unheard' : ''));
        if (! $lost) {
            $this->held[$client] = [$address, $this->time + $seconds];
            $this->had[$client] = $address;
        }
    }

    private function release(int $which): null
    {
        $client = $this->client();
        [$address, $until] = $this->held[$client] ?? ['', 0];
        if ($this->members[$which] !== null && $until > $this->time) {
            $this->members[$which]->release(Address::parse($address), $client, $this->now($which));
            $this->settle($which);
            unset($this->held[$client]);
            $this->tell("$client gives $address back to $which");
        }

        return null;
    }

    private function decline(int $which): null
    {
        $client = $this->client();
        [$address, $until] = $this->held[$client] ?? ['', 0];
        if ($this->members[$which] !== null && $until > $this->time) {
            $this->members[$which]->decline(Address::parse($address), $client, $this->now($which) + 30, $this->now($which));
            $this->settle($which);
            unset($this->held[$client]);
            $this->tell("$client declines $address at $which");
        }

        return null;
    }

    private function twice(): ?string
    {
        $whose = [];
        foreach ($this->held as $client => [$address, $until]) {
            if ($until > $this->time) {
                if (isset($whose[$address])) {
                    return "$address is valid for {$whose[$address]} and for $client";
                }
                $whose[$address] = $client;
            }
        }

        return null;
    }
}
