<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** What a key signs (RFC 6781 §3.1). */
enum KeyRole: string
{
    /** signs the keys; the parent's DS names it */
    case Ksk = 'ksk';

    /** signs everything else */
    case Zsk = 'zsk';

    /** one key for both */
    case Csk = 'csk';

    public function isEntry(): bool
    {
        return $this !== self::Zsk;
    }

    public function signsZone(): bool
    {
        return $this !== self::Ksk;
    }

    public function words(): string
    {
        return match ($this) {
            self::Ksk => 'key-signing key',
            self::Zsk => 'zone-signing key',
            self::Csk => 'single key',
        };
    }
}
