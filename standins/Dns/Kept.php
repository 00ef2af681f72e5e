<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Dnssec\Trust;
use HarborPost\Core\Dns\Dnssec\Verdict;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\Wire\ExtendedError;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Rcode;

/** An answer as a resolver keeps it, with what it found out about it. */
final class Kept
{
    public ?Verdict $verdict = null;

    /**
     * @param  list<Record>  $answers
     * @param  list<Record>  $authority
     */
    private function __construct(
        public readonly Rcode $rcode,
        public readonly array $answers,
        public readonly array $authority,
        private readonly int $at,
        public readonly int $until,
    ) {
    }

    /** Failures are not kept, and nothing longer than the lowest TTL in it. */
    public static function of(Message $answer, int $now): self
    {
        $records = $answer->answers !== [] ? $answer->answers : $answer->authority;
        $ttls = array_map(static fn (Record $r): int => $r->ttl, $records);
        $keeps = in_array($answer->rcode, [Rcode::NoError, Rcode::NxDomain], true) && $ttls !== [];

        return new self($answer->rcode, $answer->answers, $answer->authority, $now, $keeps ? $now + min($ttls) : $now);
    }

    public function aged(int $now): self
    {
        $aged = fn (Record $r): Record => $r->withTtl(max(0, $r->ttl - ($now - $this->at)));
        $copy = new self($this->rcode, array_map($aged, $this->answers), array_map($aged, $this->authority), $this->at, $this->until);
        $copy->verdict = $this->verdict;

        return $copy;
    }

    /** What is not believed is not handed on (RFC 4035 §5.5). */
    public function judged(): self
    {
        if ($this->verdict?->trust !== Trust::Bogus) {
            return $this;
        }
        $nothing = new self(Rcode::ServFail, [], [], $this->at, $this->until);
        $nothing->verdict = $this->verdict;

        return $nothing;
    }

    /** Why it is not believed, for the asker. */
    public function error(): ?ExtendedError
    {
        $fault = $this->verdict?->trust === Trust::Secure ? null : $this->verdict?->fault;

        return $fault === null || $this->verdict === null ? null : new ExtendedError($fault->code(), $this->verdict->words());
    }
}
