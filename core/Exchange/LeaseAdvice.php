<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange;

/**
 * How long a lease should be. A client renews at half of it, so it has at least the other half left when its server is lost: twice the
 * outage outlives it. And every new client keeps an address for as long as its lease: what comes in a lease time has to fit the pool.
 */
final readonly class LeaseAdvice
{
    private function __construct(
        /** seconds, the least that outlives the outage */
        public int $least,
        /** seconds, the most for which the pool lasts; null when nobody comes */
        public ?int $most,
        /** addresses that the least asks for */
        public int $needs,
    ) {
    }

    /**
     * @param  int  $outage  seconds that clients are to get by without a server
     * @param  int  $pool  addresses
     * @param  float  $arrivals  new clients an hour
     */
    public static function of(int $outage, int $pool, float $arrivals): self
    {
        $least = 2 * $outage;
        $most = $arrivals > 0 ? (int) floor($pool / $arrivals * 3600) : null;

        return new self($least, $most, (int) ceil($arrivals * $least / 3600));
    }

    /** Is there a time that serves both? */
    public function fits(): bool
    {
        return $this->most === null || $this->least <= $this->most;
    }
}
