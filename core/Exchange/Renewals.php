<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange;

/** When clients ask again, and so when a change has reached how many of them: each at T1 of its lease (RFC 2131 §4.4.5). */
final readonly class Renewals
{
    /**
     * @param  list<array{at: int, clients: int}>  $steps  seconds from now, in order → clients that ask then
     */
    private function __construct(public array $steps, public int $clients)
    {
    }

    /** @param  array<int, int>  $asking  seconds from now → clients that ask then; what is past is now */
    public static function of(array $asking): self
    {
        $byTime = [];
        foreach ($asking as $at => $clients) {
            $at = max(0, $at);
            $byTime[$at] = ($byTime[$at] ?? 0) + $clients;
        }
        ksort($byTime);
        $steps = [];
        foreach ($byTime as $at => $clients) {
            $steps[] = ['at' => $at, 'clients' => $clients];
        }

        return new self($steps, array_sum($byTime));
    }

    /** Seconds from now until a share of the clients has asked; null when there is none. */
    public function until(float $share): ?int
    {
        $have = 0;
        foreach ($this->steps as $step) {
            $have += $step['clients'];
            if ($have >= $share * $this->clients) {
                return $step['at'];
            }
        }

        return null;
    }

    /** @return list<array{float, float}> the curve from 0 to 1 both ways: part of the time, part of the clients */
    public function curve(): array
    {
        $last = $this->until(1.0);
        if ($last === null) {
            return [];
        }
        $points = [[0.0, 0.0]];
        $have = 0;
        foreach ($this->steps as $step) {
            $have += $step['clients'];
            $points[] = [$last === 0 ? 0.0 : (float) ($step['at'] / $last), (float) ($have / $this->clients)];
        }

        return $points;
    }

    /**
     * Clients whose lease would end in an outage that begins now.
     *
     * @param  int  $seconds  of the outage
     */
    public function losing(int $seconds, int $leaseTime): int
    {
        $lose = 0;
        foreach ($this->steps as $step) {
            // A client that would have asked at T1 has the other half of its lease left then.
            $lose += $seconds >= $step['at'] + intdiv($leaseTime, 2) ? $step['clients'] : 0;
        }

        return $lose;
    }
}
