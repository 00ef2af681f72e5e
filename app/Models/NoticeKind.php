<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Checks\Severity;

/** What people are told of, with what is usual for it. */
enum NoticeKind: string
{
    case Silent = 'silent';
    case Leases = 'leases';
    case Pair = 'pair';
    case Drift = 'drift';
    case Behind = 'behind';
    case Signature = 'signature';
    case Subnet = 'subnet';
    case Scope = 'scope';
    case Audit = 'audit';
    case Draft = 'draft';
    case Due = 'due';
    case Hook = 'hook';
    case Report = 'report';
    case Right = 'right';
    case Figure = 'figure';

    public function title(): string
    {
        return match ($this) {
            self::Silent => 'A server cannot be read',
            self::Leases => 'Leases cannot be read',
            self::Pair => 'A pair is not whole',
            self::Drift => 'A server is not as it is meant',
            self::Behind => 'A server is behind with a zone',
            self::Signature => 'Signatures end soon',
            self::Subnet => 'A subnet is nearly full',
            self::Scope => 'A scope is nearly leased out',
            self::Audit => 'An audit of severity error fails',
            self::Draft => 'A draft waits for agreement',
            self::Due => 'A draft was not committed at its time',
            self::Hook => 'A hook is parked',
            self::Report => 'A report could not be brought',
            self::Right => 'A test of rights turned',
            self::Figure => 'A figure of a server is beyond its threshold',
        };
    }

    /** From when on it is told of, in words. */
    public function whenTold(int $threshold): string
    {
        $unit = $this->unit();

        return $unit === null ? 'always' : "from $threshold ".($threshold === 1 ? rtrim($unit, 's') : $unit);
    }

    /** What the threshold counts; null where there is none. */
    public function unit(): ?string
    {
        return match ($this) {
            self::Subnet, self::Scope => '%',
            self::Signature, self::Draft => 'hours',
            self::Audit, self::Drift => 'objects',
            default => null,
        };
    }

    public function usualThreshold(): int
    {
        return match ($this) {
            self::Subnet => 85,
            self::Scope => 90,
            self::Signature => 72,
            self::Draft => 24,
            default => 1,
        };
    }

    /** Minutes that it has to hold: what passes by itself disturbs nobody. */
    public function usualMinutes(): int
    {
        return match ($this) {
            self::Silent, self::Leases => 10,
            self::Pair => 2,
            self::Drift, self::Behind => 30,
            default => 0,
        };
    }

    public function usualLevel(): Severity
    {
        return match ($this) {
            self::Silent, self::Pair, self::Signature, self::Scope, self::Audit, self::Right => Severity::Error,
            self::Draft, self::Report => Severity::Note,
            default => Severity::Warning,
        };
    }

    /** So far below the threshold a figure has to fall before it is over: what sways around it is one notice, not many. */
    public function slack(): int
    {
        return $this === self::Subnet || $this === self::Scope ? 3 : 0;
    }
}
