<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Pair;

use HarborPost\Core\Net\Address;

/**
 * One of two servers that lease the same addresses and tell each other (the design of RFC 8156, carried over to IPv4). It holds no clock,
 * no socket and no disk: it is told the time and what arrived, and says what to send and what to keep.
 *
 * No address is valid for two clients at once, as long as the clocks differ by no more than agreed and nobody says that a partner is off
 * while it works. Three rules make it so. A free address is given by its owner only. A lease runs no further ahead of what the partner
 * acknowledged than the lead time. An address that was leased is free again only when both say that it ended; or, with the partner off,
 * when the longest lease that the partner may have given on its own is over.
 */
final class PairMember
{
    private PairState $state;

    /** @var array<string, Binding> */
    private array $bindings = [];

    /** @var \SplMinHeap<array{int, string}> when an address is to be looked at again, soonest first */
    private \SplMinHeap $due;

    /** @var array<string, int> address → the soonest time in the heap */
    private array $queued = [];

    /** @var list<array<string, mixed>> */
    private array $out = [];

    /** @var array<string, true> addresses that were changed and not yet kept */
    private array $changed = [];

    /** @var list<PairTerms> those that the partner may still go by, since the two have not met under the present ones */
    private array $earlier = [];

    private bool $connected = false;

    private bool $met = false;

    private ?PairState $partner = null;

    private int $partnerAt = 0;

    private string $refusal = '';

    private int $conflicts = 0;

    /** It begins without what it knew before: others must tell, and it must wait. */
    private bool $blank;

    private bool $renewsOwn;

    /** The partner was asked for all it knows, in this connection; and told it. */
    private bool $learning = false;

    private bool $learned = false;

    private PairState $before;

    /**
     * @param  array{state: string, since: int, waits?: int, blank?: bool, terms?: list<array<mixed>>}|null  $memory  what {@see memory()}
     *     gave before it stopped
     * @param  iterable<Binding>  $bindings
     */
    public function __construct(
        private readonly Side $side,
        private readonly PairTerms $terms,
        private readonly int $started,
        ?array $memory = null,
        iterable $bindings = [],
        private int $since = 0,
        private int $waits = 0,
    ) {
        $this->due = new \SplMinHeap();
        foreach ($bindings as $binding) {
            $this->bindings[$binding->address] = $binding;
            $this->watch($binding);
        }
        foreach ($memory['terms'] ?? [] as $row) {
            $terms = PairTerms::fromArray($row);
            if ($terms !== null && $terms != $this->terms) {
                $this->earlier[] = $terms;
            }
        }
        $this->before = PairState::tryFrom($memory['state'] ?? '') ?? PairState::Recover;
        $this->blank = $memory === null || ($memory['blank'] ?? false);
        $this->renewsOwn = $this->blank;
        $this->waits = $memory['waits'] ?? $started + $this->terms->lead + 2 * $this->terms->skew;
        $this->since = $memory['since'] ?? $started;
        $this->state = $memory === null ? PairState::Recover : PairState::Startup;
    }

    public function state(): PairState
    {
        return $this->state;
    }

    /** Do the two hear each other, under the same terms? */
    public function hears(): bool
    {
        return $this->met;
    }

    /** What a partner is told, and what stays over a restart. */
    private function lasting(): PairState
    {
        return match (true) {
            $this->state !== PairState::Startup => $this->state,
            $this->before === PairState::Normal => PairState::Interrupted,
            $this->before === PairState::PotentialConflict => PairState::ResolutionInterrupted,
            default => $this->before,
        };
    }

    /** @return array{state: string, since: int, waits: int, blank: bool, terms: list<array<mixed>>} */
    public function memory(): array
    {
        return [
            'state' => $this->lasting()->value,
            'since' => $this->since,
            'waits' => $this->waits,
            'blank' => $this->blank,
            'terms' => array_map(static fn (PairTerms $t): array => $t->toArray(), [$this->terms, ...$this->earlier]),
        ];
    }

    /** Whose the address is by the present terms, and by those that the partner may still go by. */
    private function owns(Address $address): bool
    {
        foreach ([$this->terms, ...$this->earlier] as $terms) {
            if ($terms->owner($address) !== $this->side) {
                return false;
            }
        }

        return true;
    }

    /** How far a lease may run ahead: the least of all terms in force. */
    private function lead(): int
    {
        return min(array_map(static fn (PairTerms $t): int => $t->lead, [$this->terms, ...$this->earlier]));
    }

    /** How far the partner may have run ahead: the most of all terms in force. */
    private function partnersLead(): int
    {
        return max(array_map(static fn (PairTerms $t): int => $t->lead, [$this->terms, ...$this->earlier]));
    }

    /**
     * For whoever looks.
     *
     * @return array{state: string, since: int, connected: bool, partner: ?string, partner_at: int, refusal: string, conflicts: int,
     *     takes_over: ?int, unknown: int}
     */
    public function status(): array
    {
        return [
            'state' => $this->state->value,
            'since' => $this->since,
            'connected' => $this->met,
            'partner' => $this->partner?->value,
            'partner_at' => $this->partnerAt,
            'refusal' => $this->refusal,
            'conflicts' => $this->conflicts,
            'takes_over' => $this->state === PairState::PartnerDown ? $this->takesOver() : null,
            'unknown' => count(array_filter($this->bindings, static fn (Binding $b): bool => ! $b->isKnown())),
        ];
    }

    /** @return list<array<string, mixed>> what is to be sent, in order; it is forgotten when it is taken */
    public function sendings(): array
    {
        [$out, $this->out] = [$this->out, []];

        return $out;
    }

    /** @return list<Binding> what changed and must be kept before anything is answered or sent */
    public function keepings(): array
    {
        $kept = array_map(fn (int|string $a): Binding => $this->bindings[(string) $a], array_keys($this->changed));
        $this->changed = [];

        return $kept;
    }

    public function binding(string $address): ?Binding
    {
        return $this->bindings[$address] ?? null;
    }

    /** @return array<string, Binding> */
    public function bindings(): array
    {
        return $this->bindings;
    }

    public function connected(int $now): void
    {
        $this->connected = true;
        $this->met = $this->learned = $this->learning = false;
        $this->out = [];
        $this->send(['is' => 'hello', 'state' => $this->lasting()->value, 'now' => $now, 'terms' => $this->terms->toArray()]);
    }

    public function lost(int $now): void
    {
        $this->connected = $this->met = false;
        $this->out = [];
        match ($this->state) {
            PairState::Normal => $this->become(PairState::Interrupted, $now),
            PairState::PotentialConflict => $this->become(PairState::ResolutionInterrupted, $now),
            default => null,
        };
    }

    /** Time passes: what ended is told, what waited goes on. */
    public function tick(int $now): void
    {
        if ($this->state === PairState::Startup && ! $this->met && $now >= $this->started + $this->terms->startup) {
            $this->state = $this->lasting();
            $this->begin($now);
        }
        if ($this->state === PairState::RecoverWait && $now >= $this->waits) {
            $this->become(PairState::RecoverDone, $now);
        }
        while (! $this->due->isEmpty()) {
            [$at, $address] = $this->due->top();
            if ($at > $now) {
                return;
            }
            $this->due->extract();
            if (($this->queued[$address] ?? 0) === $at) {
                unset($this->queued[$address]);
                $this->look($address, $now);
            }
        }
    }

    /**
     * A person says that the partner is off, and stays off until it can speak to this server.
     *
     * @throws NotNow
     */
    public function partnerDown(int $now): void
    {
        if ($this->met) {
            throw new NotNow('Its partner answers: it is not off.');
        }
        if (! in_array($this->state, [PairState::Interrupted, PairState::ResolutionInterrupted], true)) {
            throw new NotNow(
                $this->state === PairState::PartnerDown
                    ? 'It was told already that its partner is off.'
                    : "In {$this->state->value} it does not know yet what was leased, so it cannot take over.",
            );
        }
        $this->become(PairState::PartnerDown, $now);
    }

    /**
     * Does this server answer the client? While both hear each other, one of them does; the other one only when the client has asked in
     * vain.
     *
     * @param  int  $secs  since when the client asks, as it says (RFC 3074 §5)
     */
    public function answers(string $key, ?Address $reserved, int $secs = 0): bool
    {
        if ($this->state !== PairState::Normal) {
            return $this->state->givesNew() || $this->renewsOnly();
        }
        $whose = $reserved !== null ? $this->terms->owner($reserved) : $this->terms->answers($key);

        return $whose === $this->side || $secs >= 3;
    }

    private function renewsOnly(): bool
    {
        return $this->state->isConflict() || $this->state === PairState::Recover && $this->renewsOwn;
    }

    /** May the client have the address now, by what both servers know? */
    public function mayGive(Address $address, string $client, int $now): bool
    {
        $binding = $this->bindings[(string) $address] ?? null;
        if ($binding !== null && $binding->state !== BindingState::Available) {
            $own = $binding->client === $client && ! $binding->freeing && $binding->state !== BindingState::Declined;

            return $own && ($this->state->givesNew() || $this->renewsOnly() && $binding->state === BindingState::Active);
        }
        if (! $this->state->givesNew()) {
            return false;
        }

        return $this->owns($address) || $this->state === PairState::PartnerDown && $now > $this->takesOver();
    }

    /** Does the client hold the address, as far as this server knows? */
    public function holds(Address $address, string $client, int $now): bool
    {
        $binding = $this->bindings[(string) $address] ?? null;

        return $binding !== null && $binding->state === BindingState::Active && $binding->client === $client && $binding->ends > $now;
    }

    /** Seconds that the client could have the address for now; null when it may not have it. */
    public function most(Address $address, string $client, int $wanted, int $now): ?int
    {
        if (! $this->mayGive($address, $client, $now)) {
            return null;
        }
        $binding = $this->bindings[(string) $address] ?? null;
        $acked = $binding !== null && $binding->client === $client ? $binding->acked : 0;

        return $this->state === PairState::PartnerDown ? $wanted : min($wanted, max($acked, $now) + $this->lead() - $now);
    }

    /**
     * Gives or renews a lease.
     *
     * @return ?int seconds: at most what is wanted, and no further ahead of the partner than agreed; null when the client may not have it
     */
    public function give(Address $address, string $client, int $wanted, int $now, string $about = ''): ?int
    {
        $seconds = $this->most($address, $client, $wanted, $now);
        if ($seconds === null) {
            return null;
        }
        $binding = $this->at((string) $address);
        if ($binding->client !== $client) {
            $binding->becomeAvailable(0);
        }
        $binding->client = $client;
        $binding->about = $about;
        $binding->state = BindingState::Active;
        $binding->ends = max($binding->ends, $now + $seconds);
        // As far as the renewal after the next one needs, so that it can be given whole.
        $binding->asked = $now + intdiv($seconds, 2) + $wanted;
        $this->altered($binding, $now);

        return $seconds;
    }

    /** A lease that this server gave before it had a partner. */
    public function learn(string $address, string $client, int $ends, int $now, string $about = ''): void
    {
        $binding = $this->at($address);
        if ($binding->state === BindingState::Available) {
            [$binding->client, $binding->about, $binding->state] = [$client, $about, BindingState::Active];
            $binding->ends = $binding->asked = $ends;
            $this->altered($binding, $now);
        }
    }

    public function release(Address $address, string $client, int $now): void
    {
        $binding = $this->bindings[(string) $address] ?? null;
        if ($binding !== null && $binding->client === $client && $binding->state === BindingState::Active) {
            $binding->state = BindingState::Released;
            $binding->ends = $now;
            $this->ended($binding, $now);
        }
    }

    /** The client found somebody else at the address. */
    public function decline(Address $address, string $client, int $until, int $now): void
    {
        $binding = $this->bindings[(string) $address] ?? null;
        if ($binding !== null && $binding->client === $client) {
            $binding->becomeAvailable(0);
            $binding->state = BindingState::Declined;
            $binding->ends = $until;
            $this->altered($binding, $now);
        }
    }

    /** @param  array<mixed>  $message */
    public function receive(array $message, int $now): void
    {
        $is = $message['is'] ?? null;
        if ($is === 'hello') {
            $this->hello($message, $now);

            return;
        }
        if (! $this->met) {
            return;
        }
        $this->partnerAt = $now;
        match ($is) {
            'state' => $this->meets(PairState::tryFrom(self::text($message, 'state')), $now),
            'update' => $this->update(Binding::fromArray((array) ($message['binding'] ?? [])), $now),
            'answer' => $this->answer($message, $now),
            'all' => $this->tellAll(),
            'done' => $this->learned($now),
            // What it gave under other terms is known now, so the present ones alone count.
            'told' => $this->earlier = [],
            default => null,
        };
    }

    /** @param  array<mixed>  $message */
    private function hello(array $message, int $now): void
    {
        $theirs = is_int($message['now'] ?? null) ? $message['now'] : 0;
        $this->refusal = match (true) {
            ($message['terms'] ?? null) != $this->terms->toArray() => 'The two servers were given different terms: ship the pair to both.',
            abs($theirs - $now) > $this->terms->skew => 'The clocks of the two servers differ by '.abs($theirs - $now).' seconds, '
                ."more than the {$this->terms->skew} that are allowed.",
            default => '',
        };
        if ($this->refusal !== '') {
            // Whatever else does not fit: one that took over has given what this server knows nothing of.
            $own = $this->lasting();
            if (self::text($message, 'state') === PairState::PartnerDown->value && ! $own->isRecovering()
                && $own !== PairState::PartnerDown) {
                $this->become(PairState::Recover, $now);
            }

            return;
        }
        $this->met = true;
        $this->partnerAt = $now;
        // First what it does not know, then the state: it must not go by what is no longer so.
        foreach ($this->bindings as $binding) {
            if (! $binding->isKnown()) {
                $this->tell($binding);
            }
        }
        $this->send(['is' => 'told']);
        $this->meets(PairState::tryFrom(self::text($message, 'state')), $now);
    }

    private function meets(?PairState $partner, int $now): void
    {
        if ($partner === null) {
            return;
        }
        $this->partner = $partner;
        $own = $this->lasting();
        $next = $this->follows($own, $partner);
        if ($own === PairState::Recover && ! $partner->isRecovering()) {
            $this->renewsOwn = false;
        }
        if ($next !== $this->state) {
            $this->become($next, $now);
        }
        if (! $this->learning && ($next === PairState::Recover || $next === PairState::PotentialConflict)) {
            $this->learning = true;
            $this->send(['is' => 'all']);
        }
    }

    /** What a server becomes when it hears in which state its partner is (RFC 8156 §8). */
    private function follows(PairState $own, PairState $partner): PairState
    {
        $down = $own === PairState::PartnerDown;
        if ($own->isConflict() || $partner->isConflict() || $down && $partner === PairState::PartnerDown) {
            // The first to have learned everything is normal again; the other one follows it.
            return $own->isConflict() && $partner === PairState::Normal && $this->learned ? PairState::Normal
                : PairState::PotentialConflict;
        }
        if ($own->isRecovering()) {
            $ready = $partner === PairState::Normal || $partner === PairState::RecoverDone;

            return $own === PairState::RecoverDone && $ready ? PairState::Normal : $own;
        }

        return match (true) {
            $partner === PairState::PartnerDown => PairState::Recover,
            $partner === PairState::RecoverDone => PairState::Normal,
            $partner->isRecovering(), $down => PairState::PartnerDown,
            default => PairState::Normal,
        };
    }

    private function become(PairState $state, int $now): void
    {
        $this->since = $this->lasting() === $state ? $this->since : $now;
        $this->state = $state;
        if ($state === PairState::Normal) {
            $this->blank = $this->renewsOwn = false;
        }
        $this->begin($now);
        if ($this->met) {
            $this->send(['is' => 'state', 'state' => $state->value]);
        }
    }

    /** What ended while nothing could be said of it is said now. */
    private function begin(int $now): void
    {
        if ($this->state !== PairState::Normal && $this->state !== PairState::PartnerDown) {
            return;
        }
        foreach ($this->bindings as $binding) {
            if ($binding->state !== BindingState::Available) {
                $this->look($binding->address, $now);
            }
        }
    }

    /** With the partner off: when the longest lease is over that it may have given without telling. */
    private function takesOver(): int
    {
        return $this->since + $this->partnersLead() + 2 * $this->terms->skew;
    }

    private function freeAt(Binding $binding): int
    {
        $heard = $binding->heard > 0 ? $binding->heard + $this->partnersLead() : 0;

        return max($binding->ends, $heard, $this->since + $this->partnersLead()) + 2 * $this->terms->skew;
    }

    private function look(string $address, int $now): void
    {
        $binding = $this->at($address);
        if (in_array($binding->state, [BindingState::Active, BindingState::Declined], true) && $binding->ends <= $now) {
            $binding->state = BindingState::Expired;
            $this->changed[$address] = true;
        }
        if ($binding->state === BindingState::Available || $binding->ends > $now) {
            $this->watch($binding);

            return;
        }
        if ($this->state === PairState::PartnerDown) {
            if ($this->freeAt($binding) < $now) {
                $binding->becomeAvailable(0);
                $this->altered($binding, $now);
            } else {
                $this->queue($address, $this->freeAt($binding) + 1);
            }
        } elseif ($this->state === PairState::Normal && ! $binding->freeing) {
            $this->ended($binding, $now);
        }
    }

    /** The partner is asked to agree that the lease is over; until it does, the address is nobody's. */
    private function ended(Binding $binding, int $now): void
    {
        $binding->freeing = $this->state === PairState::Normal && $this->met;
        $this->altered($binding, $now, $binding->freeing);
    }

    private function altered(Binding $binding, int $now, bool $tell = true): void
    {
        $binding->touch($now);
        $this->changed[$binding->address] = true;
        $this->watch($binding);
        if ($tell) {
            $this->tell($binding);
        }
    }

    private function tell(Binding $binding): void
    {
        if ($this->met) {
            if ($binding->state->isEnded() && ! $binding->freeing) {
                // With a number of its own: an answer to what was told before is no agreement that it is over.
                $binding->freeing = true;
                $binding->touch(0);
                $this->changed[$binding->address] = true;
            }
            $this->send(['is' => 'update', 'binding' => $binding->toArray()]);
        }
    }

    private function tellAll(): void
    {
        foreach ($this->bindings as $binding) {
            if ($binding->changed > 0) {
                $this->tell($binding);
            }
        }
        $this->send(['is' => 'done']);
    }

    private function learned(int $now): void
    {
        $this->learned = true;
        if ($this->state === PairState::Recover) {
            $waits = $this->blank && $this->partner !== null && ! $this->partner->isRecovering();
            $this->become($waits ? PairState::RecoverWait : PairState::RecoverDone, $now);
            $this->tick($now);
            if ($this->partner !== null) {
                $this->meets($this->partner, $now);
            }
        } elseif ($this->state === PairState::PotentialConflict) {
            $this->become(PairState::Normal, $now);
        }
    }

    private function update(?Binding $theirs, int $now): void
    {
        if ($theirs === null) {
            return;
        }
        $own = $this->at($theirs->address);
        $yes = $this->accepts($own, $theirs, $now);
        if ($yes || $this->blank && $own->state === BindingState::Available) {
            $this->adopt($own, $theirs, $now);
        }
        $this->send([
            'is' => 'answer',
            'address' => $theirs->address,
            'number' => $theirs->number,
            'yes' => $yes,
            'changed' => $own->changed,
            'binding' => $yes ? [] : $own->toArray(),
        ]);
    }

    /** Is what the partner says later than, or in keeping with, what is known here? */
    private function accepts(Binding $own, Binding $theirs, int $now): bool
    {
        $later = $theirs->changed > $own->changed || $theirs->changed === $own->changed && $this->side === Side::Second;
        $same = $own->client === $theirs->client;
        if ($this->blank && $theirs->state->isEnded()) {
            // It may have renewed the lease itself, and forgotten that it did: it cannot agree that it is over.
            return false;
        }
        if ($own->state === BindingState::Available) {
            return $theirs->changed >= $own->changed || $theirs->state->isEnded();
        }
        if ($theirs->state === BindingState::Active) {
            return $same && $own->state !== BindingState::Declined || $later;
        }
        if (! $theirs->state->isEnded()) {
            return $later;
        }
        if ($own->state->isEnded() && $same) {
            return true;
        }
        if (! $own->isKnown() || ! $same) {
            return $later && $own->isKnown();
        }

        return $theirs->state === BindingState::Released ? $later : $own->ends + $this->terms->skew < $now;
    }

    private function adopt(Binding $own, Binding $theirs, int $now): void
    {
        $this->changed[$own->address] = true;
        if ($theirs->state === BindingState::Available || $theirs->state->isEnded() && ! $this->blank) {
            $own->becomeAvailable($theirs->changed);
            $own->known = $own->number;

            return;
        }
        // A client that declines an address at one server may have been given it anew by the other one.
        $least = $theirs->state === BindingState::Declined ? $own->ends : 0;
        if ($own->client !== $theirs->client || $theirs->state === BindingState::Declined) {
            $this->conflicts += $own->state === BindingState::Active && $own->ends > $now && $theirs->state === BindingState::Active ? 1
                : 0;
            $own->becomeAvailable(0);
            $own->known = $own->number;
        }
        $own->client = $theirs->client;
        $own->about = $theirs->about;
        $own->state = $theirs->state->isEnded() ? BindingState::Active : $theirs->state;
        $own->freeing = false;
        // Who forgot what it told a client goes by the most that it may have told it.
        $forgot = $this->blank ? max($this->waits, $theirs->heard + $this->partnersLead()) : 0;
        $own->ends = max($own->ends, $least, $theirs->ends, $forgot);
        $own->heard = max($own->heard, $theirs->asked, $theirs->ends);
        $own->changed = max($own->changed, $theirs->changed);
        $this->watch($own);
    }

    /** @param  array<mixed>  $message */
    private function answer(array $message, int $now): void
    {
        $own = $this->bindings[self::text($message, 'address')] ?? null;
        $number = is_int($message['number'] ?? null) ? $message['number'] : -1;
        if ($own === null || $number < 0) {
            return;
        }
        $this->changed[$own->address] = true;
        $own->known = max($own->known, min($number, $own->number));
        if ($number !== $own->number) {
            return;
        }
        if (($message['yes'] ?? false) === true) {
            // What follows here comes after everything that the partner knew when it agreed.
            $own->changed = max($own->changed, is_int($message['changed'] ?? null) ? $message['changed'] : 0);
            $own->acked = max($own->acked, $own->asked);
            if ($own->freeing) {
                $own->becomeAvailable(0);
            }

            return;
        }
        $own->freeing = false;
        $theirs = Binding::fromArray((array) ($message['binding'] ?? []));
        if ($theirs === null) {
            return;
        }
        $longer = $theirs->client === $own->client && $theirs->state === BindingState::Active && $theirs->ends > $own->ends;
        if ($theirs->changed > $own->changed && $theirs->state->isEnded()) {
            // It ended there too, for another client: that is not yet an agreement that it is free.
            [$own->client, $own->about, $own->state] = [$theirs->client, $theirs->about, BindingState::Expired];
            [$own->ends, $own->changed] = [max($own->ends, $theirs->ends), $theirs->changed];
        } elseif ($theirs->changed > $own->changed || $longer) {
            $this->adopt($own, $theirs, $now);
        }
        if ($own->state->isEnded()) {
            $this->queue($own->address, $now + $this->terms->skew);
        }
    }

    private function at(string $address): Binding
    {
        return $this->bindings[$address] ??= new Binding($address);
    }

    private function watch(Binding $binding): void
    {
        if ($binding->ends > 0 && $binding->state !== BindingState::Available) {
            $this->queue($binding->address, $binding->ends);
        }
    }

    private function queue(string $address, int $at): void
    {
        if ($at < ($this->queued[$address] ?? PHP_INT_MAX)) {
            $this->queued[$address] = $at;
            $this->due->insert([$at, $address]);
        }
    }

    /** @param  array<string, mixed>  $message */
    private function send(array $message): void
    {
        if ($this->connected) {
            $this->out[] = $message;
        }
    }

    /** @param  array<mixed>  $message */
    private static function text(array $message, string $key): string
    {
        return is_string($message[$key] ?? null) ? $message[$key] : '';
    }
}
