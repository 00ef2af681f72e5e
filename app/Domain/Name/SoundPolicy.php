<?php

declare(strict_types=1);

namespace App\Domain\Name;

use App\Acts\Engine\Ledger;
use App\Models\SigningPolicy;
use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Ttl;

/** Judges the times of a signing policy against each other (RFC 6781 §4.4, RFC 7583). */
final class SoundPolicy
{
    public static function judge(Ledger $ledger, SigningPolicy $policy): void
    {
        $spoken = static fn (int $s): string => Ttl::of($s)->spoken();
        if (! $policy->algorithm->signs()) {
            $ledger->refuse(
                'algorithm-not-for-signing',
                'Zones are not signed by this algorithm any more',
                'RSA with SHA-256, ECDSA P-256 or Ed25519.',
                'RFC 8624 §3.1',
                'algorithm',
            );
        }
        $ledger->passed('algorithm', "{$policy->algorithm->mnemonic()}: {$policy->algorithm->standing()}", 'RFC 8624 §3.1');
        self::judgeSignatures($ledger, $policy, $spoken);
        self::judgeLives($ledger, $policy, $spoken);
        self::sayRisks($ledger, $policy);
    }

    /** @param  \Closure(int): string  $spoken */
    private static function judgeSignatures(Ledger $ledger, SigningPolicy $policy, \Closure $spoken): void
    {
        if ($policy->validity < 3600 || $policy->validity > 86400 * 365) {
            $ledger->refuse('bad-validity', 'Signatures hold between an hour and a year', standard: 'RFC 6781 §4.4.2', field: 'validity');
        }
        if ($policy->refresh + $policy->jitter >= $policy->validity) {
            $ledger->refuse(
                'refresh-too-long',
                'Signatures would be made anew all the time',
                "They hold {$spoken($policy->validity)}, the spread takes {$spoken($policy->jitter)} of that, and "
                    ."{$spoken($policy->refresh)} before the end they are made anew.",
                'RFC 6781 §4.4.2',
                'refresh',
            );
        }
        if ($policy->refresh < 86400 * 3) {
            $ledger->warn(
                'refresh-short',
                "Only {$spoken($policy->refresh)} are left to mend what keeps a signature from being made anew",
                'A long weekend is three days.',
                'RFC 6781 §4.4.2',
                'refresh',
            );
        }
        if ($policy->validity - $policy->jitter - $policy->refresh < $policy->key_ttl) {
            $ledger->warn(
                'validity-below-ttl',
                'The keys outlive their signatures in caches',
                'The TTL of the keys is longer than a signature is sure to hold.',
                'RFC 6781 §4.4.2.2',
                'keyTtl',
            );
        }
    }

    /**
     * A turn of a key ends before its life does.
     *
     * @param  \Closure(int): string  $spoken
     */
    private static function judgeLives(Ledger $ledger, SigningPolicy $policy, \Closure $spoken): void
    {
        foreach (['entry_life' => 'entryLife', 'zone_key_life' => 'zoneKeyLife'] as $column => $field) {
            $turns = $policy->propagation + $policy->key_ttl + $policy->ds_ttl + $policy->parent_propagation + 86400 * 7;
            if ($policy->$column !== 0 && $turns > $policy->$column) {
                $ledger->refuse(
                    'life-too-short',
                    'A key would be replaced before its replacement could be finished',
                    "One turn takes {$spoken($turns)} with these times.",
                    'RFC 7583 §3',
                    $field,
                );
            }
        }
    }

    private static function sayRisks(Ledger $ledger, SigningPolicy $policy): void
    {
        if ($policy->denial === Denial::OptOut) {
            $ledger->warn(
                'opt-out',
                'Unsigned delegations are left out',
                'Whoever can answer for the zone can add one that nobody notices.',
                'RFC 5155 §12.2',
                'denial',
            );
        }
        if ($policy->algorithm === Algorithm::RsaSha256) {
            $ledger->warn(
                'large-answers',
                'Answers grow by 256 bytes a signature',
                'Some will not fit into one packet and are asked for again over TCP.',
                'RFC 8624 §3.1',
                'algorithm',
            );
        }
    }

    public static function seconds(Ledger $ledger, string $text, string $field): int
    {
        try {
            return Ttl::parse(trim($text))->seconds;
        } catch (Malformed $e) {
            $ledger->refuse('bad-time', $e->getMessage(), 'Write it as 14d, 36h or in seconds.', $e->standard, $field);
        }
    }
}
