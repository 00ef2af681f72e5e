<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Zone;

/**
 * How long a name that a client registered lives without being renewed (RFC 9664), and the quiet first part in which a renewal is
 * acknowledged and not written. Times in seconds since 1970, spans in seconds.
 */
final readonly class Lapse
{
    private function __construct(public int $lifetime, public int $quiet)
    {
    }

    /** @throws \InvalidArgumentException when the quiet part leaves a client no time to renew */
    public static function of(int $lifetime, int $quiet): self
    {
        if ($lifetime < 60) {
            throw new \InvalidArgumentException('a lifetime is at least a minute');
        }
        if ($quiet < 0 || $quiet > intdiv($lifetime, 2)) {
            throw new \InvalidArgumentException(
                'the quiet part is at most half the lifetime, so that a renewal in the other half is written',
            );
        }

        return new self($lifetime, $quiet);
    }

    /** Is a renewal at this moment written down, or only acknowledged? */
    public function writes(int $renewed, int $now): bool
    {
        return $now >= $renewed + $this->quiet;
    }

    public function due(int $renewed): int
    {
        return $renewed + $this->lifetime;
    }

    public function hasLapsed(int $renewed, int $now): bool
    {
        return $now >= $this->due($renewed);
    }

    /**
     * Does it fit how clients of a scope behave? A client renews its name when it renews its lease, at half of the lease time.
     *
     * @return ?string what is wrong, for people
     */
    public function against(int $leaseTime): ?string
    {
        $renews = intdiv($leaseTime, 2);

        return match (true) {
            $this->lifetime < $leaseTime => 'a name lapses before the lease ends that it belongs to',
            $this->quiet >= $this->lifetime - $renews => 'the only renewal before the end may fall into the quiet part',
            default => null,
        };
    }
}
