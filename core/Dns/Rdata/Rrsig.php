<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Bytes\ByteReader;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\NameCompressor;
use HarborPost\Core\Dns\RecordType;

/** The signature of a record set (RFC 4034 §3.1). Times are seconds modulo 2^32, compared by RFC 1982. */
final readonly class Rrsig implements BuiltRdata
{
    public function __construct(
        public RecordType $covered,
        public int $algorithm,
        /** labels of the owner that was signed, without the root and a leading asterisk */
        public int $labels,
        public int $originalTtl,
        public int $expiration,
        public int $inception,
        public int $keyTag,
        public Name $signer,
        public string $signature,
    ) {
    }

    public static function fromText(Fields $fields): self
    {
        $type = $fields->raw('the type covered');

        return new self(
            RecordType::tryParse($type) ?? throw $fields->fault("\"$type\" is no record type", 'RFC 4034 §3.2'),
            (int) (array_search(strtoupper((string) $fields->peek()), DnssecAlgorithms::NAMES, true) ?: null)
                ?: $fields->number('the algorithm', 8),
            $fields->number('the count of labels', 8),
            $fields->number('the original TTL', 32),
            self::time($fields, 'the end'),
            self::time($fields, 'the start'),
            $fields->number('the key tag', 16),
            $fields->name('the signer'),
            self::base64($fields),
        );
    }

    public static function fromWire(ByteReader $reader): self
    {
        return new self(
            RecordType::of($reader->uint16()), $reader->uint8(), $reader->uint8(), $reader->uint32(), $reader->uint32(), $reader->uint32(),
            $reader->uint16(), Name::fromWire($reader), $reader->rest(),
        );
    }

    public function type(): RecordType
    {
        return RecordType::of(RecordType::RRSIG);
    }

    public function wire(?NameCompressor $names = null, int $offset = 0): string
    {
        return $this->fixed().$this->signer->wire.$this->signature;
    }

    public function canonical(): string
    {
        return $this->head().$this->signature;
    }

    /** What a signature covers of itself: all but its own bytes, the signer in lower case (RFC 4034 §3.1.8.1). */
    public function head(): string
    {
        return $this->fixed().$this->signer->key();
    }

    public function withSignature(string $signature): self
    {
        return new self(
            $this->covered, $this->algorithm, $this->labels, $this->originalTtl, $this->expiration, $this->inception, $this->keyTag,
            $this->signer, $signature,
        );
    }

    public function text(): string
    {
        return "$this->covered $this->algorithm $this->labels $this->originalTtl "
            .gmdate('YmdHis', $this->expiration).' '.gmdate('YmdHis', $this->inception)
            ." $this->keyTag {$this->signer->lower()} ".base64_encode($this->signature);
    }

    private function fixed(): string
    {
        return pack(
            'nCCNNNn',
            $this->covered->number, $this->algorithm, $this->labels, $this->originalTtl, $this->expiration, $this->inception, $this->keyTag,
        );
    }

    /** Fourteen digits of a date, or seconds since 1970 (RFC 4034 §3.2). */
    private static function time(Fields $fields, string $what): int
    {
        $text = $fields->raw("$what of validity");
        if (preg_match('/\A(\d{4})(\d\d)(\d\d)(\d\d)(\d\d)(\d\d)\z/', $text, $m) === 1) {
            $time = gmmktime((int) $m[4], (int) $m[5], (int) $m[6], (int) $m[2], (int) $m[3], (int) $m[1]);
            if ($time !== false && gmdate('YmdHis', $time) === $text) {
                return $time & 0xFFFFFFFF;
            }
        } elseif (preg_match('/\A\d{1,10}\z/', $text) === 1 && (int) $text <= 0xFFFFFFFF) {
            return (int) $text;
        }
        throw $fields->fault("$what of validity is written as YYYYMMDDHHmmSS, not \"$text\"", 'RFC 4034 §3.2');
    }

    private static function base64(Fields $fields): string
    {
        $text = '';
        while (! $fields->atEnd()) {
            $text .= $fields->raw('the signature');
        }
        $bytes = base64_decode($text, true);

        return $bytes === false || $bytes === '' ? throw $fields->fault('the signature is base 64 text', 'RFC 4648 §4') : $bytes;
    }
}
