<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Dnssec;

/** Signing algorithms that are understood here (RFC 5702, 6605, 8080). Others make a zone insecure, not bogus (RFC 4035 §5.2). */
enum Algorithm: int
{
    case RsaSha256 = 8;
    case RsaSha512 = 10;
    case EcdsaP256 = 13;
    case EcdsaP384 = 14;
    case Ed25519 = 15;

    /** RSA keys with longer exponents or moduli are work for an attacker's benefit (RFC 3110 §2 allows up to 4096 bits). */
    private const RSA_EXPONENT = 8;

    public function mnemonic(): string
    {
        return match ($this) {
            self::RsaSha256 => 'RSASHA256',
            self::RsaSha512 => 'RSASHA512',
            self::EcdsaP256 => 'ECDSAP256SHA256',
            self::EcdsaP384 => 'ECDSAP384SHA384',
            self::Ed25519 => 'ED25519',
        };
    }

    /** May new zones be signed with it? What is left is still verified. */
    public function signs(): bool
    {
        return in_array($this, [self::RsaSha256, self::EcdsaP256, self::Ed25519], true);
    }

    /** What the registry says of it for signing (RFC 8624 §3.1). */
    public function standing(): string
    {
        return match ($this) {
            self::EcdsaP256 => 'must be implemented; the usual choice: small keys, small answers',
            self::Ed25519 => 'recommended; smallest answers, resolvers older than 2017 take the zone as unsigned',
            self::RsaSha256 => 'must be implemented; answers are large',
            self::RsaSha512 => 'not recommended for signing',
            self::EcdsaP384 => 'may be used for signing',
        };
    }

    /** Bytes that a signature takes, as keys are made here. */
    public function signatureSize(): int
    {
        return match ($this) {
            self::RsaSha256, self::RsaSha512 => 256,
            self::EcdsaP256, self::Ed25519 => 64,
            self::EcdsaP384 => 96,
        };
    }

    /** Is the signature that of the data by that key? A key that is none of this algorithm signs nothing. */
    public function verifies(string $publicKey, string $data, string $signature): bool
    {
        return match ($this) {
            self::Ed25519 => strlen($publicKey) === SODIUM_CRYPTO_SIGN_PUBLICKEYBYTES && strlen($signature) === SODIUM_CRYPTO_SIGN_BYTES
                && sodium_crypto_sign_verify_detached($signature, $data, $publicKey),
            self::EcdsaP256, self::EcdsaP384 => $this->openssl($this->curvePem($publicKey), $data, $this->der($signature)),
            self::RsaSha256, self::RsaSha512 => $this->openssl(self::rsaPem($publicKey), $data, $signature),
        };
    }

    /** The digest that openssl is told. */
    public function digest(): int
    {
        return match ($this) {
            self::RsaSha512 => OPENSSL_ALGO_SHA512,
            self::EcdsaP384 => OPENSSL_ALGO_SHA384,
            default => OPENSSL_ALGO_SHA256,
        };
    }

    /** Bytes of one half of an ECDSA signature, 0 for the others. */
    public function half(): int
    {
        return match ($this) {
            self::EcdsaP256 => 32,
            self::EcdsaP384 => 48,
            default => 0,
        };
    }

    /** The two halves of an ECDSA signature from the form that openssl gives (RFC 6605 §4 wants them bare). */
    public function bare(string $der): string
    {
        $at = ord($der[1]) === 0x81 ? 3 : 2;
        $bare = '';
        for ($i = 0; $i < 2; $i++) {
            $length = ord($der[$at + 1]);
            $bare .= str_pad(ltrim(substr($der, $at + 2, $length), "\0"), $this->half(), "\0", STR_PAD_LEFT);
            $at += 2 + $length;
        }

        return $bare;
    }

    private function openssl(?string $pem, string $data, ?string $signature): bool
    {
        $key = $pem === null || $signature === null ? false : openssl_pkey_get_public($pem);
        $good = $key !== false && openssl_verify($data, (string) $signature, $key, $this->digest()) === 1;
        while (openssl_error_string() !== false);

        return $good;
    }

    private function der(string $signature): ?string
    {
        if (strlen($signature) !== 2 * $this->half()) {
            return null;
        }
        $numbers = '';
        foreach ([0, $this->half()] as $at) {
            $half = ltrim(substr($signature, $at, $this->half()), "\0");
            $half = $half === '' || ord($half[0]) > 0x7F ? "\0$half" : $half;
            $numbers .= "\x02".chr(strlen($half)).$half;
        }

        return self::element(0x30, $numbers);
    }

    private function curvePem(string $publicKey): ?string
    {
        if (strlen($publicKey) !== 2 * $this->half()) {
            return null;
        }
        // id-ecPublicKey with the curve (RFC 5480 §2.1.1).
        $curve = "\x06\x07\x2a\x86\x48\xce\x3d\x02\x01".match ($this) {
            self::EcdsaP256 => "\x06\x08\x2a\x86\x48\xce\x3d\x03\x01\x07",
            default => "\x06\x05\x2b\x81\x04\x00\x22",
        };

        return self::pem(self::element(0x30, $curve).self::element(0x03, "\0\4$publicKey"));
    }

    /** Exponent and modulus as RFC 3110 §2 lays them out. */
    private static function rsaPem(string $publicKey): ?string
    {
        if (strlen($publicKey) < 3) {
            return null;
        }
        [$length, $at] = $publicKey[0] === "\0" ? [ord($publicKey[1]) << 8 | ord($publicKey[2]), 3] : [ord($publicKey[0]), 1];
        $exponent = ltrim(substr($publicKey, $at, $length), "\0");
        $modulus = ltrim(substr($publicKey, $at + $length), "\0");
        if ($exponent === '' || strlen($exponent) > self::RSA_EXPONENT || strlen($modulus) < 64 || strlen($modulus) > 512) {
            return null;
        }
        $number = static fn (string $n): string => self::element(0x02, ord($n[0]) > 0x7F ? "\0$n" : $n);

        return self::pem(
            self::element(0x30, "\x06\x09\x2a\x86\x48\x86\xf7\x0d\x01\x01\x01\x05\x00")
                .self::element(0x03, "\0".self::element(0x30, $number($modulus).$number($exponent))),
        );
    }

    private static function pem(string $parts): string
    {
        return "-----BEGIN PUBLIC KEY-----\n".chunk_split(
            base64_encode(self::element(0x30, $parts)),
            64,
            "\n",
        )."-----END PUBLIC KEY-----\n";
    }

    private static function element(int $tag, string $content): string
    {
        $length = strlen($content);
        $size = $length < 0x80 ? chr($length) : ($length < 0x100 ? "\x81".chr($length) : "\x82".pack('n', $length));

        return chr($tag).$size.$content;
    }
}
