<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** What validation says of an answer (RFC 4033 §5). */
enum Trust: string
{
    case Secure = 'secure';
    case Insecure = 'insecure';
    case Bogus = 'bogus';
    case Indeterminate = 'indeterminate';

    public function words(): string
    {
        return match ($this) {
            self::Secure => 'proved by signatures from an anchor down to the answer',
            self::Insecure => 'proved to be unsigned: nothing protects it',
            self::Bogus => 'should be signed, and is not rightly so: not to be believed',
            self::Indeterminate => 'no anchor says whether it should be signed',
        };
    }
}
