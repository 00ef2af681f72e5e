<?php

declare(strict_types=1);

namespace App\Links;

/** A server outside did not answer, or not what was asked: says which server, what was tried, what came back. */
final class Unanswered extends \RuntimeException
{
    private function __construct(
        string $message,
        /** asking again may help: nothing came back, or the connection broke */
        public readonly bool $mayPass = false,
        /** the whole patience was spent */
        public readonly bool $late = false,
    ) {
        parent::__construct($message);
    }

    /** The same, saying how often it was tried. */
    public function after(int $tries): self
    {
        return $tries === 1 ? $this : new self(rtrim($this->getMessage(), '.').", tried $tries times.", $this->mayPass, $this->late);
    }

    public static function silence(string $who, string $endpoint, float $seconds): self
    {
        return new self(
            sprintf(
                '%s did not answer at %s within %s s. It may be down, slow or out of reach; other servers are not affected.',
                $who,
                $endpoint,
                rtrim(rtrim(sprintf('%.1f', $seconds), '0'), '.'),
            ),
            true,
            true,
        );
    }

    public static function closed(string $who, string $endpoint, string $why): self
    {
        return new self("$who cannot be reached at $endpoint: $why.", true);
    }

    public static function refused(string $who, string $why): self
    {
        return new self("$who answered that it will not: $why.");
    }

    /** It was not even asked, for a reason of ours. */
    public static function unasked(string $who, string $why): self
    {
        return new self("$who was not asked: $why.");
    }

    /** It answers, and not what is meant. */
    public static function differs(string $who, string $how): self
    {
        return new self("$who does not run what is meant: $how.");
    }

    public static function nonsense(string $who, string $why): self
    {
        return new self("$who answered something unreadable: $why.");
    }
}
