<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dhcp;

use HarborPost\Core\Exchange\Pair\Binding;
use HarborPost\Core\Exchange\Pair\BindingState;
use HarborPost\Core\Exchange\Pair\PairKey;
use HarborPost\Core\Exchange\Pair\PairMember;
use HarborPost\Core\Exchange\Pair\PairTerms;
use HarborPost\Core\Exchange\Pair\Side;
use HarborPost\Standins\Journal;
use React\EventLoop\LoopInterface;
use React\EventLoop\TimerInterface;

/**
 * One pair as a server has it: the member with its disk, its clock and its line to the partner. A scope is leased by the pair when both
 * servers said that they have it there; before that, only who has a lease is answered.
 */
final class ServedPair
{
    public readonly PairMember $member;

    private readonly Journal $bindings;

    private readonly Journal $memory;

    private ?PairLine $line = null;

    private readonly TimerInterface $timer;

    /** @var array<string, true> scopes that the partner has in the pair too */
    private array $ready = [];

    /** @var list<string> scopes that this server has in the pair */
    private array $scopes = [];

    /** @var array<mixed> */
    private array $kept = [];

    private bool $dialling = false;

    /** The partner was told which scopes are here, after everything that is leased in them. */
    private bool $announced = false;

    /**
     * @param  array<mixed>  $source  as it came over the control channel
     * @param  \Closure(): int  $now
     * @param  \Closure(Binding): void  $tells  told every binding that changed
     * @param  \Closure(): bool  $speaks  false while the server plays one that is lost
     */
    public function __construct(
        private readonly LoopInterface $loop,
        string $directory,
        public readonly array $source,
        private readonly \Closure $now,
        private readonly \Closure $tells,
        private readonly \Closure $speaks,
    ) {
        is_dir($directory) || mkdir($directory, 0700, true);
        $this->bindings = new Journal("$directory/bindings.jsonl");
        $this->memory = new Journal("$directory/memory.jsonl");
        $bindings = [];
        foreach ($this->bindings->entries() as $row) {
            $binding = Binding::fromArray($row);
            if ($binding !== null) {
                $bindings[$binding->address] = $binding;
            }
        }
        foreach ($this->memory->entries() as $row) {
            $this->kept = $row;
        }
        $this->bindings->rewrite(array_map(static fn (Binding $b): array => $b->toArray(), array_values($bindings)));
        $this->memory->rewrite($this->kept === [] ? [] : [$this->kept]);
        $ready = is_array($this->kept['ready'] ?? null) ? $this->kept['ready'] : [];
        $this->ready = array_fill_keys(array_filter($ready, is_string(...)), true);
        $this->member = new PairMember($this->side(), $this->terms(), ($now)(), self::memoryOf($this->kept), array_values($bindings));
        $this->timer = $loop->addPeriodicTimer(0.5, $this->tick(...));
        $this->tick();
    }

    /** @param  array<mixed>  $row
     * @return array{state: string, since: int, waits: int, blank: bool, terms: list<array<mixed>>}|null
     */
    private static function memoryOf(array $row): ?array
    {
        return is_string($row['state'] ?? null) && is_int($row['since'] ?? null) && is_int($row['waits'] ?? null)
            ? [
                'state' => $row['state'],
                'since' => $row['since'],
                'waits' => $row['waits'],
                'blank' => ($row['blank'] ?? true) === true,
                'terms' => array_values(array_filter(is_array($row['terms'] ?? null) ? $row['terms'] : [], is_array(...))),
            ]
            : null;
    }

    public function id(): string
    {
        return self::text($this->source, 'id');
    }

    public function side(): Side
    {
        return Side::tryFrom(self::text($this->source, 'side')) ?? Side::First;
    }

    /** @return array<string, string> id → secret, the newest last */
    public function keys(): array
    {
        return array_filter(is_array($this->source['keys'] ?? null) ? $this->source['keys'] : [], is_string(...));
    }

    private function terms(): PairTerms
    {
        $number = fn (string $key, int $else): int => is_int($this->source[$key] ?? null) ? $this->source[$key] : $else;

        return self::text($this->source, 'mode') === 'standby'
            ? PairTerms::standby($number('percent', 20), $number('lead', 3600))
            : PairTerms::balanced($number('percent', 50), $number('lead', 3600));
    }

    /** @return array<mixed> as it came, its keys by what tells them apart */
    public function shown(): array
    {
        return ['keys' => array_map(PairKey::mark(...), $this->keys())] + $this->source;
    }

    /** @return array<string, mixed> */
    public function status(): array
    {
        $leases = array_filter($this->member->bindings(), static fn (Binding $b): bool => $b->state === BindingState::Active);

        return ['id' => $this->id(), 'side' => $this->side()->value, 'leases' => count($leases), 'key' => $this->line?->key() ?? '']
            + ['ready' => array_values(array_intersect($this->scopes, array_keys($this->ready)))] + $this->member->status();
    }

    /** Has this server had the scope in the pair already, with what was leased in it? */
    public function knows(string $scope): bool
    {
        return in_array($scope, $this->scopes, true);
    }

    public function isReady(string $scope): bool
    {
        return isset($this->ready[$scope]);
    }

    /**
     * Which scopes this server has in the pair. Leases that it gave before are told first.
     *
     * @param  list<string>  $scopes
     */
    public function has(array $scopes): void
    {
        if ($scopes !== $this->scopes) {
            $this->scopes = $scopes;
            $this->announced = false;
            $this->settle();
        }
    }

    /** Does it hear its partner, or was it told that the partner is off? Only then may a scope leave the pair. */
    public function mayLeave(): bool
    {
        return $this->member->hears() || $this->member->status()['takes_over'] !== null || $this->ready === [];
    }

    /** The partner's line, or the one that was made to it. */
    public function speak(PairLine $line): void
    {
        $this->line?->close();
        $this->line = $line;
        $this->dialling = false;
        $line->take(
            function (array $message): void {
                if (($message['is'] ?? '') === 'scopes') {
                    $ids = is_array($message['ids'] ?? null) ? $message['ids'] : [];
                    $this->ready = array_fill_keys(array_filter($ids, is_string(...)), true);
                } else {
                    $this->member->receive($message, ($this->now)());
                }
                $this->settle();
            },
            function () use ($line): void {
                if ($this->line === $line) {
                    $this->line = null;
                    $this->member->lost(($this->now)());
                    $this->settle();
                }
            },
        );
        $this->announced = false;
        $this->member->connected(($this->now)());
        $this->settle();
    }

    private function tick(): void
    {
        $this->member->tick(($this->now)());
        if (! ($this->speaks)()) {
            $this->line?->close();

            return;
        }
        if ($this->line !== null && $this->line->isSilent()) {
            $this->line->close();
        }
        if ($this->line === null && ! $this->dialling && $this->side() === Side::First) {
            $this->dialling = true;
            PairLine::dial($this->loop, $this->partner(), $this, function (): void {
                $this->dialling = false;
            });
        }
        $this->line?->send(['is' => 'here']);
        $this->settle();
    }

    private function partner(): string
    {
        return self::text($this->source, 'partner');
    }

    /** What changed is on disk before anything is answered or sent. */
    public function settle(): void
    {
        foreach ($this->member->keepings() as $binding) {
            $this->bindings->append($binding->toArray());
            ($this->tells)($binding);
        }
        $memory = $this->member->memory() + ['ready' => array_keys($this->ready)];
        if ($memory !== $this->kept) {
            $this->kept = $memory;
            $this->memory->append($memory);
        }
        foreach ($this->member->sendings() as $message) {
            $this->line?->send($message);
        }
        if (! $this->announced && $this->line !== null && $this->member->hears()) {
            $this->announced = true;
            $this->line->send(['is' => 'scopes', 'ids' => $this->scopes]);
        }
    }

    public function end(): void
    {
        $this->loop->cancelTimer($this->timer);
        $this->line?->close();
        $this->line = null;
    }

    /** @param  array<mixed>  $row */
    private static function text(array $row, string $key): string
    {
        return is_string($row[$key] ?? null) ? $row[$key] : '';
    }
}
