<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\Pair;

/** What a server of a pair is in, named as RFC 8156 §8 names it. */
enum PairState: string
{
    /** just started: it waits a moment for its partner before it goes on where it stopped */
    case Startup = 'STARTUP';
    case Normal = 'NORMAL';
    /** the partner does not answer; whether it still works is not known */
    case Interrupted = 'COMMUNICATIONS-INTERRUPTED';
    /** a person said that the partner is off, or the partner came back without what it knew */
    case PartnerDown = 'PARTNER-DOWN';
    /** both gave out the partner's addresses: what they know is put together before anything new is given */
    case PotentialConflict = 'POTENTIAL-CONFLICT';
    case ResolutionInterrupted = 'RESOLUTION-INTERRUPTED';
    /** it learns what its partner did meanwhile */
    case Recover = 'RECOVER';
    /** it waits until every lease that it may have forgotten has ended or was told */
    case RecoverWait = 'RECOVER-WAIT';
    case RecoverDone = 'RECOVER-DONE';

    /** May a server in this state give a lease to a client that has none? */
    public function givesNew(): bool
    {
        return in_array($this, [self::Normal, self::Interrupted, self::PartnerDown], true);
    }

    public function isRecovering(): bool
    {
        return in_array($this, [self::Recover, self::RecoverWait, self::RecoverDone], true);
    }

    public function isConflict(): bool
    {
        return in_array($this, [self::PotentialConflict, self::ResolutionInterrupted], true);
    }

    /** What it may hand out, for people. */
    public function means(): string
    {
        return match ($this) {
            self::Startup => 'has just started and waits a moment for its partner; answers nobody',
            self::Normal => 'both know of each other; each answers its part of the clients',
            self::Interrupted => 'does not hear its partner: answers everybody, gives new clients addresses of its own part only, '
                .'and no address of a lease that ended to another client',
            self::PartnerDown => 'told that its partner is off: answers everybody, and takes over the partner\'s part when the longest '
                .'lease that it may not know of has ended',
            self::PotentialConflict => 'puts its leases together with its partner\'s; renews only',
            self::ResolutionInterrupted => 'was to put its leases together with its partner\'s and does not hear it; renews only',
            self::Recover => 'learns from its partner what was leased; answers only whom it leased to itself before',
            self::RecoverWait => 'waits until every lease that it may have forgotten is over; answers nobody',
            self::RecoverDone => 'has learned everything and waits for its partner to see it; answers nobody',
        };
    }
}
