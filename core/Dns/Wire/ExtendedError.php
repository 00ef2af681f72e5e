<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Wire;

/** Why a server could not answer, as a number of the registry and words of its own (RFC 8914 §2). */
final readonly class ExtendedError
{
    public const OPTION = 15;

    public function __construct(public int $code, public string $words)
    {
    }

    public static function of(Message $message): ?self
    {
        foreach ($message->edns->options->options ?? [] as [$code, $bytes]) {
            if ($code === self::OPTION && strlen($bytes) >= 2) {
                return new self(ord($bytes[0]) << 8 | ord($bytes[1]), rtrim(substr($bytes, 2), "\0"));
            }
        }

        return null;
    }

    /** @return array{int, string} */
    public function option(): array
    {
        return [self::OPTION, pack('n', $this->code).$this->words];
    }
}
