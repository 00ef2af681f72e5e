<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Dnskey;
use HarborPost\Core\Dns\Rdata\Ds;
use HarborPost\Core\Dns\Rdata\Fields;

/** A key that signs: the public half as it stands in the zone, the private half as a secret that is never shown. */
final readonly class SigningKey
{
    private const RSA_BITS = 2048;

    /** SHA-256 and SHA-384 (RFC 4509, RFC 6605 §2); SHA-1 is verified nowhere here. */
    public const DIGESTS = [2 => 'sha256', 4 => 'sha384'];

    private function __construct(
        public Algorithm $algorithm,
        public Dnskey $public,
        #[\SensitiveParameter]
        private string $secret,
        private ?\OpenSSLAsymmetricKey $openssl,
        /** @var non-empty-string the secret half as sodium wants it */
        #[\SensitiveParameter]
        private string $sodium = ' ',
    ) {
    }

    /**
     * A new key; openssl draws its own chance for RSA and ECDSA.
     *
     * @param  string  $seed  32 bytes of chance, for Ed25519
     */
    public static function make(Algorithm $algorithm, bool $entryPoint, #[\SensitiveParameter] string $seed): self
    {
        if ($algorithm === Algorithm::Ed25519) {
            return self::ofSecret($algorithm, $entryPoint, base64_encode($seed));
        }
        $key = openssl_pkey_new(match ($algorithm) {
            Algorithm::EcdsaP256 => ['private_key_type' => OPENSSL_KEYTYPE_EC, 'curve_name' => 'prime256v1'],
            Algorithm::EcdsaP384 => ['private_key_type' => OPENSSL_KEYTYPE_EC, 'curve_name' => 'secp384r1'],
            default => ['private_key_type' => OPENSSL_KEYTYPE_RSA, 'private_key_bits' => self::RSA_BITS],
        });
        $pem = '';
        if ($key === false || ! openssl_pkey_export($key, $pem) || ! is_string($pem)) {
            throw new \RuntimeException('openssl made no key');
        }

        return self::ofSecret($algorithm, $entryPoint, $pem);
    }

    /**
     * @param  string  $secret  what secret() gave: PEM, or the seed in base 64 for Ed25519
     *
     * @throws Malformed
     */
    public static function ofSecret(Algorithm $algorithm, bool $entryPoint, #[\SensitiveParameter] string $secret): self
    {
        $bad = static fn (): Malformed => Malformed::because("this is no private key of {$algorithm->mnemonic()}", 'RFC 4034 §2');
        if ($algorithm === Algorithm::Ed25519) {
            $seed = base64_decode($secret, true);
            if ($seed === false || strlen($seed) !== SODIUM_CRYPTO_SIGN_SEEDBYTES) {
                throw $bad();
            }
            $pair = sodium_crypto_sign_seed_keypair($seed);
            $public = self::dnskey($algorithm, $entryPoint, sodium_crypto_sign_publickey($pair));

            return new self($algorithm, $public, $secret, null, sodium_crypto_sign_secretkey($pair));
        }
        $key = openssl_pkey_get_private($secret);
        while (openssl_error_string() !== false);
        $parts = $key === false ? false : openssl_pkey_get_details($key);
        if ($key === false || $parts === false) {
            throw $bad();
        }
        $public = $algorithm->half() > 0 ? self::point($parts, $algorithm->half()) : self::modulus($parts);

        return new self($algorithm, self::dnskey($algorithm, $entryPoint, $public ?? throw $bad()), $secret, $key);
    }

    public function tag(): int
    {
        return $this->public->tag();
    }

    public function secret(): string
    {
        return $this->secret;
    }

    public function sign(string $data): string
    {
        if ($this->openssl === null) {
            return sodium_crypto_sign_detached($data, $this->sodium);
        }
        $signature = '';
        if (! openssl_sign($data, $signature, $this->openssl, $this->algorithm->digest()) || ! is_string($signature)) {
            throw new \RuntimeException('openssl did not sign');
        }

        return $this->algorithm->half() > 0 ? $this->algorithm->bare($signature) : $signature;
    }

    public function ds(Name $zone, int $digestType = 2): Ds
    {
        return self::dsOf($zone, $this->public, $digestType);
    }

    /** What the parent publishes of a key (RFC 4034 §5.1.4). */
    public static function dsOf(Name $zone, Dnskey $key, int $digestType = 2): Ds
    {
        $digest = hash(self::DIGESTS[$digestType], $zone->key().$key->wire());

        return Ds::fromText(Fields::ofLine("{$key->tag()} {$key->algorithm()} $digestType $digest"));
    }

    private static function dnskey(Algorithm $algorithm, bool $entryPoint, string $public): Dnskey
    {
        $flags = Dnskey::ZONE | ($entryPoint ? Dnskey::SEP : 0);

        return Dnskey::fromText(Fields::ofLine("$flags 3 $algorithm->value ".base64_encode($public)));
    }

    /** @param  array<mixed>  $parts */
    private static function point(array $parts, int $half): ?string
    {
        $curve = is_array($parts['ec'] ?? null) ? $parts['ec'] : [];
        [$x, $y] = [$curve['x'] ?? null, $curve['y'] ?? null];

        return is_string($x) && is_string($y) && max(strlen($x), strlen($y)) <= $half
            ? str_pad($x, $half, "\0", STR_PAD_LEFT).str_pad($y, $half, "\0", STR_PAD_LEFT)
            : null;
    }

    /** @param  array<mixed>  $parts */
    private static function modulus(array $parts): ?string
    {
        $rsa = is_array($parts['rsa'] ?? null) ? $parts['rsa'] : [];
        [$exponent, $modulus] = [$rsa['e'] ?? null, $rsa['n'] ?? null];

        return is_string($exponent) && is_string($modulus) ? chr(strlen($exponent)).$exponent.$modulus : null;
    }
}
