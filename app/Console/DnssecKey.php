<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Dns\Dnssec\Algorithm;
use HarborPost\Core\Dns\Dnssec\SigningKey;

/** A private key on standard output, for dnssec:sign; keys of zones that are kept here are made and kept here. */
final class DnssecKey extends Computes
{
    protected $signature = 'dnssec:key {algorithm=13 : 13, 15 or 8}';

    protected $description = 'Makes a private key for dnssec:sign';

    public function handle(): int
    {
        $algorithm = Algorithm::tryFrom((int) $this->argument('algorithm'));
        if ($algorithm === null || ! $algorithm->signs()) {
            return $this->unusable('the algorithm is 13 (ECDSA P-256), 15 (Ed25519) or 8 (RSA with SHA-256)');
        }
        $this->say(rtrim(SigningKey::make($algorithm, true, random_bytes(32))->secret()));

        return 0;
    }
}
