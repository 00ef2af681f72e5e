<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Names;

/** What a client says of its name, and what the server answers (option 81, RFC 4702 §2). */
final readonly class ClientFqdn
{
    private const S = 1;

    private const O = 2;

    private const E = 4;

    private const N = 8;

    private const N_V6 = 4;

    private function __construct(
        /** the server is asked to write the address record, or says that it does */
        public bool $byServer,
        /** the server does otherwise than it was asked */
        public bool $overridden,
        /** nobody writes anything */
        public bool $none,
        /** as text, without a final dot; empty when the client says none */
        public string $name,
    ) {
    }

    /** Null when the bytes are none. The name may be in the form of DNS, or in plain letters as old clients send it. */
    public static function read(string $payload): ?self
    {
        if (strlen($payload) < 3) {
            return null;
        }
        $flags = ord($payload[0]);
        $bytes = substr($payload, 3);
        $name = ($flags & self::E) === 0 ? rtrim($bytes, "\0.") : self::labels($bytes);

        return $name === null ? null : new self(($flags & self::S) !== 0, ($flags & self::O) !== 0, ($flags & self::N) !== 0, $name);
    }

    /** Of DHCPv6 (option 39, RFC 4704 §4): one byte of flags, in which N stands elsewhere, and the name always in the form of DNS. */
    public static function readV6(string $payload): ?self
    {
        if ($payload === '') {
            return null;
        }
        $flags = ord($payload[0]);

        return self::read(chr($flags & (self::S | self::O) | self::E | (($flags & self::N_V6) === 0 ? 0 : self::N))."\0\0"
            .substr($payload, 1));
    }

    public function answerV6(LeaseNames $rule, string $name): string
    {
        $answer = $this->answer($rule, $name);
        $flags = ord($answer[0]);

        return chr($flags & (self::S | self::O) | (($flags & self::N) === 0 ? 0 : self::N_V6)).substr($answer, 3);
    }

    /** What a server answers: it does it, or the client does, or nobody. */
    public function answer(LeaseNames $rule, string $name): string
    {
        $flags = match ($rule) {
            LeaseNames::Server => self::S | ($this->byServer ? 0 : self::O),
            LeaseNames::Client => $this->byServer ? self::O : 0,
            LeaseNames::Nobody => self::N | ($this->byServer ? self::O : 0),
        };
        $wire = '';
        foreach ($name === '' ? [] : explode('.', $name) as $label) {
            $wire .= chr(strlen($label)).$label;
        }

        // The codes of a result are 255: they are not used any more (RFC 4702 §2.2).
        return chr($flags | self::E)."\xff\xff".$wire.($wire === '' ? '' : "\0");
    }

    private static function labels(string $bytes): ?string
    {
        $labels = [];
        for ($at = 0; $at < strlen($bytes); $at += 1 + $length) {
            $length = ord($bytes[$at]);
            if ($length === 0) {
                break;
            }
            if ($length > 63 || $at + 1 + $length > strlen($bytes)) {
                return null;
            }
            $labels[] = substr($bytes, $at + 1, $length);
        }

        return implode('.', $labels);
    }
}
