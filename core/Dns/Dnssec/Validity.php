<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Name;

/** For how long signatures hold and when they are made anew. All in seconds. */
final readonly class Validity
{
    /** Signatures start in the past, for clocks that are behind (RFC 6781 §4.4.2). */
    private const SKEW = 3600;

    public function __construct(
        public int $lifetime,
        /** so long before the end a signature is made anew */
        public int $refresh,
        /** ends are spread over so long, so that not all are made anew at once */
        public int $jitter,
    ) {
    }

    public function isDue(int $expires, int $now): bool
    {
        return $expires - $this->refresh <= $now;
    }

    /** @return array{int, int} start and end; the same set gets the same place within the jitter */
    public function times(Name $owner, int $type, int $now): array
    {
        $spread = $this->jitter === 0 ? 0 : crc32($owner->key().pack('nN', $type, intdiv($now, 3600))) % ($this->jitter + 1);

        return [$now - self::SKEW, $now + $this->lifetime - $spread];
    }
}
