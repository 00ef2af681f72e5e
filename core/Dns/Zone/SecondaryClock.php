<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

use HarborPost\Core\Dns\Rdata\Soa;

/**
 * When a secondary asks next, and until when it serves without hearing from its primary (RFC 1034 §4.3.5, RFC 1912 §2.2). Times in
 * seconds since 1970.
 */
final readonly class SecondaryClock
{
    private function __construct(public int $refreshed, public int $nextRefresh, public int $expires)
    {
    }

    /**
     * @param  int  $refreshed  when the primary last answered with this serial or a newer one
     * @param  ?int  $tried  when it last asked in vain; null when the last try succeeded
     */
    public static function of(Soa $soa, int $refreshed, ?int $tried = null): self
    {
        return new self($refreshed, $tried === null ? $refreshed + $soa->refresh : $tried + $soa->retry, $refreshed + $soa->expire);
    }

    public function isExpired(int $now): bool
    {
        return $now >= $this->expires;
    }

    public function isDue(int $now): bool
    {
        return $now >= $this->nextRefresh;
    }
}
