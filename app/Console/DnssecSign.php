<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\Denial;
use HarborPost\Core\Dns\Dnssec\Node;
use HarborPost\Core\Dns\Dnssec\SigningKey;
use HarborPost\Core\Dns\Dnssec\Validity;
use HarborPost\Core\Dns\Dnssec\ZoneSigner;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Zone\Zone;

/** A zone file in, a signed one out; needs no database. */
final class DnssecSign extends ReadsZoneFile
{
    protected $signature = 'dnssec:sign {file} {--origin= : name of the zone} '
        .'{--ksk= : file with the private key of the keys, made by dnssec:key} '
        .'{--zsk= : file with the private key of the zone; the other one signs both otherwise} {--denial=nsec : nsec, nsec3 or '
            .'nsec3-opt-out} '
        .'{--days=14 : for how long signatures hold} {--at= : seconds since 1970, now otherwise} {--json}';

    protected $description = 'Signs a zone file: its records with keys, signatures and denial on standard output';

    public function handle(): int
    {
        $zone = $this->read(false);
        if ($zone === null) {
            return 2;
        }
        $denial = Denial::tryFrom((string) $this->option('denial'));
        $days = (int) $this->option('days');
        if ($denial === null || $days < 1 || $days > 365) {
            return $this->unusable('--denial is nsec, nsec3 or nsec3-opt-out, --days a number from 1 to 365');
        }
        if ($this->findings !== []) {
            $this->sayFindings(true);

            return 1;
        }
        try {
            $entry = self::key((string) $this->option('ksk'), true);
            $own = $this->option('zsk') === null ? $entry : self::key((string) $this->option('zsk'), false);
            $this->sign($zone, $denial, $entry, $own, $days);
        } catch (Malformed $e) {
            return $this->unusable($e->getMessage());
        }

        return 0;
    }

    private function sign(Zone $zone, Denial $denial, SigningKey $entry, SigningKey $own, int $days): void
    {
        $at = $this->option('at') === null ? time() : (int) $this->option('at');
        $published = $entry === $own ? [$entry->public] : [$entry->public, $own->public];
        $signer = new ZoneSigner($zone->origin, $denial, new Validity($days * 86400, 0, 0), $published, [$entry], [$own], 3600);
        foreach ($zone->records() as $record) {
            $this->say((string) $record);
        }
        $made = 0;
        foreach ($signer->sign(Node::all($zone->records()), [], $at) as $set) {
            foreach ([...($set->made ? $set->set->records : []), ...$set->fresh] as $record) {
                $this->say((string) $record);
                $made++;
            }
        }
        $this->err("$made records were added; the parent's DS: {$entry->ds($zone->origin)->text()}");
    }

    /** @throws Malformed */
    private static function key(string $path, bool $entry): SigningKey
    {
        $text = $path !== '' && is_file($path) ? (string) file_get_contents($path) : throw Malformed::because(
            "\"$path\" is no file that can be read",
            'RFC 4034 §2',
        );
        $details = openssl_pkey_get_private($text);
        $parts = $details === false ? [] : (openssl_pkey_get_details($details) ?: []);
        $algorithm = match ($parts['type'] ?? null) {
            OPENSSL_KEYTYPE_EC => ($parts['bits'] ?? 0) === 384 ? Algorithm::EcdsaP384 : Algorithm::EcdsaP256,
            OPENSSL_KEYTYPE_RSA => Algorithm::RsaSha256,
            default => Algorithm::Ed25519,
        };

        return SigningKey::ofSecret($algorithm, $entry, $algorithm === Algorithm::Ed25519 ? trim($text) : $text);
    }
}
