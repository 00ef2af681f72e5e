<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

/** What a message's TSIG turned out to be. */
final readonly class Signature
{
    public const NONE = 'none';

    public const GOOD = 'good';

    public const BAD_SIGNATURE = 'badsig';

    public const BAD_KEY = 'badkey';

    public const BAD_TIME = 'badtime';

    /** the numbers that a refusal carries (RFC 8945 §3) */
    private const CODES = [self::BAD_SIGNATURE => 16, self::BAD_KEY => 17, self::BAD_TIME => 18];

    public function __construct(
        public string $state,
        /** the name of the key that was used, also of one that nobody knows */
        public string $keyName = '',
        public ?TsigKey $key = null,
        /** bytes of the MAC, which the answer's MAC covers */
        public string $mac = '',
        /** seconds since 1970 at which it was signed */
        public int $time = 0,
        /** the error that the other side put into its TSIG, 0 for none */
        public int $error = 0,
    ) {
    }

    public function isGood(): bool
    {
        return $this->state === self::GOOD;
    }

    public function code(): int
    {
        return self::CODES[$this->state] ?? 0;
    }

    /** What it means, for people. */
    public function explained(): string
    {
        return match ($this->state) {
            self::NONE => 'not signed',
            self::GOOD => "signed by $this->keyName",
            self::BAD_KEY => "signed by $this->keyName, which is not known here",
            self::BAD_TIME => "signed by $this->keyName at a time too far from ours; the clocks disagree",
            default => "the signature by $this->keyName does not fit",
        };
    }
}
