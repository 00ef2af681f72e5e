<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** Why an answer is not believed, or cannot be: each with its code of extended errors (RFC 8914 §4). */
enum Fault: int
{
    case UnknownAlgorithm = 1;
    case UnknownDigest = 2;
    case Indeterminate = 5;
    case NotVerified = 6;
    case Expired = 7;
    case NotYetValid = 8;
    case NoKey = 9;
    case NoSignature = 10;
    case NoZoneKey = 11;
    case NoDenial = 12;
    case TooManyIterations = 27;

    // Finer than the registry: these are told as bogus (6) or as a missing key (9).
    case WrongSigner = 1006;
    case RevokedKey = 1009;
    case TooMuchWork = 2006;

    /** The code that stands in a message. */
    public function code(): int
    {
        return $this->value < 1000 ? $this->value : $this->value % 1000;
    }

    public function words(): string
    {
        return match ($this) {
            self::UnknownAlgorithm => 'only algorithms that are not known here',
            self::UnknownDigest => 'only digests that are not known here',
            self::Indeterminate => 'it cannot be found out',
            self::NotVerified => 'the signature does not fit the records',
            self::Expired => 'the signature has expired',
            self::NotYetValid => 'the signature is not valid yet',
            self::NoKey => 'no key that is trusted made the signature',
            self::NoSignature => 'the signature is missing',
            self::NoZoneKey => 'the key is no zone key',
            self::NoDenial => 'nothing proves that there is no such record',
            self::TooManyIterations => 'names are hashed more often than anybody should (RFC 9276)',
            self::WrongSigner => 'signed by another zone',
            self::RevokedKey => 'signed by a key that was revoked',
            self::TooMuchWork => 'more signatures and keys to try than is done for one answer',
        };
    }
}
