<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Malformed;

/** The fields of a public key, the same in DNSKEY (RFC 4034 §2.1) and CDNSKEY (RFC 7344 §3.2). */
trait KeyData
{
    use LaidOut;

    /** @return list<Part> */
    public static function parts(): array
    {
        return [
            Part::uint16('flags', '257'), Part::uint8('protocol, always 3', '3'),
            Part::uint8('algorithm', '13', DnssecAlgorithms::NAMES), Part::base64('public key', 'base 64'),
        ];
    }

    public function flags(): int
    {
        return $this->number(0);
    }

    public function algorithm(): int
    {
        return $this->number(2);
    }

    /** Raw bytes of the public key, laid out as its algorithm says. */
    public function publicKey(): string
    {
        return is_string($this->values[3]) ? $this->values[3] : '';
    }

    /** A sum over the data that tells most keys apart; two keys may have the same (RFC 4034 appendix B). */
    public function tag(): int
    {
        $sum = 0;
        foreach ((array) unpack('n*', $this->wire().(strlen($this->wire()) % 2 === 1 ? "\0" : '')) as $word) {
            $sum += is_int($word) ? $word : 0;
        }

        return $sum + ($sum >> 16) & 0xFFFF;
    }

    private function check(): void
    {
        if ($this->values[1] !== 3) {
            throw Malformed::because('the protocol of a key is 3', 'RFC 4034 §2.1.2')->inField(1);
        }
    }
}
