<?php

declare(strict_types=1);

namespace App\Links;

/** A server outside did not answer, or not what was asked: says which server, what was tried, what came back. */
final class Unanswered extends \RuntimeException
{
    public static function silence(string $who, string $endpoint, float $seconds): self
    {
        return new self(sprintf('%s did not answer at %s within %s s. It may be down, slow or out of reach; other servers are not affected.', $who, $endpoint, rtrim(rtrim(sprintf('%.1f', $seconds), '0'), '.')));
    }

    public static function closed(string $who, string $endpoint, string $why): self
    {
        return new self("$who cannot be reached at $endpoint: $why.");
    }

    public static function refused(string $who, string $why): self
    {
        return new self("$who answered that it will not: $why.");
    }

    public static function nonsense(string $who, string $why): self
    {
        return new self("$who answered something unreadable: $why.");
    }
}
