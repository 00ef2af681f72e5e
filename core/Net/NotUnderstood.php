<?php

declare(strict_types=1);

namespace HarborPost\Core\Net;

/** Text that is not the address, prefix, range or MAC it should be; points at the character (from 0). */
final class NotUnderstood extends \InvalidArgumentException
{
    private function __construct(
        string $message,
        public readonly string $text,
        public readonly int $offset,
        public readonly string $expected,
        public readonly ?string $suggestion = null,
    ) {
        parent::__construct($message);
    }

    public static function at(string $text, int $offset, string $expected): self
    {
        $shown = strlen($text) > 80 ? substr($text, 0, 77).'...' : $text;

        return new self(sprintf('"%s", character %d: %s', $shown, $offset + 1, $expected), $text, $offset, $expected);
    }

    /** A prefix whose host bits are set; the suggestion is the network it belongs to. */
    public static function hostBits(string $text, string $network): self
    {
        return new self("\"$text\" has host bits set; the network is $network", $text, 0, "the network $network", $network);
    }

    /** The same fault seen in a longer text, $by characters further on. */
    public function shifted(string $whole, int $by): self
    {
        return self::at($whole, $this->offset + $by, $this->expected);
    }

    /** Two lines for a terminal: the text and a caret below the character. */
    public function pointer(): string
    {
        return $this->text."\n".str_repeat(' ', max(0, min($this->offset, strlen($this->text)))).'^ '.$this->expected;
    }
}
