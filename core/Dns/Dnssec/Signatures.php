<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Rrsig;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordSet;
use HarborPost\Core\Dns\Serial;

/** Makes and verifies the signature of one record set (RFC 4034 §3.1.8, RFC 4035 §5.3). */
final class Signatures
{
    /** @param  int  $inception  and $expiration: seconds since 1970 */
    public static function make(RecordSet $set, SigningKey $key, Name $zone, int $inception, int $expiration): Record
    {
        $owner = $set->owner();
        $rrsig = new Rrsig(
            $set->type(), $key->algorithm->value, count($owner->labels()) - ($owner->isWildcard() ? 1 : 0), $set->ttl(),
            $expiration & 0xFFFFFFFF, $inception & 0xFFFFFFFF, $key->tag(), $zone->lower(), '',
        );

        return new Record($owner, $set->ttl(), $rrsig->withSignature($key->sign(self::covered($rrsig, $set))));
    }

    /**
     * @param  int  $now  seconds since 1970
     * @return ?Fault null when the signature holds
     */
    public static function fault(Rrsig $rrsig, RecordSet $set, Dnskey $key, Name $zone, int $now): ?Fault
    {
        $algorithm = Algorithm::tryFrom($rrsig->algorithm);
        $at = Serial::of($now & 0xFFFFFFFF);
        $count = count($set->owner()->labels());

        return match (true) {
            $algorithm === null => Fault::UnknownAlgorithm,
            ($key->flags() & Dnskey::ZONE) === 0 => Fault::NoZoneKey,
            ($key->flags() & Dnskey::REVOKED) !== 0 && $rrsig->covered->number !== $key->type()->number => Fault::RevokedKey,
            ! $rrsig->signer->equals($zone) || ! $set->owner()->isIn($zone) => Fault::WrongSigner,
            $key->algorithm() !== $rrsig->algorithm || $key->tag() !== $rrsig->keyTag => Fault::NoKey,
            $rrsig->labels > $count || ! $rrsig->covered->equals($set->type()) => Fault::NotVerified,
            Serial::of($rrsig->expiration)->isBefore(Serial::of($rrsig->inception)), Serial::of($rrsig->expiration)
                ->isBefore($at) => Fault::Expired,
            $at->isBefore(Serial::of($rrsig->inception)) => Fault::NotYetValid,
            default => $algorithm->verifies($key->publicKey(), self::covered($rrsig, $set), $rrsig->signature) ? null : Fault::NotVerified,
        };
    }

    /** Was the set made from a wildcard? Then the name that was signed is shorter (RFC 4035 §5.3.4). */
    public static function isExpanded(Rrsig $rrsig, Name $owner): bool
    {
        return $rrsig->labels < count($owner->labels()) - ($owner->isWildcard() ? 1 : 0);
    }

    /** The bytes that are signed: the head of the signature, then each record in canonical form with the TTL as it was signed. */
    private static function covered(Rrsig $rrsig, RecordSet $set): string
    {
        $owner = $set->owner();
        $labels = $owner->labels();
        if ($rrsig->labels < count($labels) - ($owner->isWildcard() ? 1 : 0)) {
            $owner = Name::ofLabels(['*', ...array_slice($labels, count($labels) - $rrsig->labels)]);
        }
        $head = $owner->key().pack('nnN', $set->type()->number, Record::IN, $rrsig->originalTtl);
        $bytes = $rrsig->head();
        foreach ($set->records as $record) {
            $data = $record->data->canonical();
            $bytes .= $head.pack('n', strlen($data)).$data;
        }

        return $bytes;
    }
}
