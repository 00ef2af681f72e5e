<?php

declare(strict_types=1);

namespace HarborPost\Core\Bytes;

/** Reads big-endian values from a byte string, front to back; every overrun is a {@see MalformedBytes} with its offset. */
final class ByteReader
{
    private int $position = 0;

    private readonly int $end;

    public function __construct(private readonly string $bytes, int $start = 0, ?int $length = null)
    {
        $this->position = $start;
        $this->end = $length === null ? strlen($bytes) : $start + $length;
        if ($this->end > strlen($bytes)) {
            throw MalformedBytes::at(strlen($bytes), sprintf('%d more bytes', $this->end - strlen($bytes)));
        }
    }

    public function position(): int
    {
        return $this->position;
    }

    public function remaining(): int
    {
        return $this->end - $this->position;
    }

    public function atEnd(): bool
    {
        return $this->position >= $this->end;
    }

    /** The whole string that is read from, for formats with pointers into it (DNS compression). */
    public function whole(): string
    {
        return $this->bytes;
    }

    public function seek(int $position): void
    {
        if ($position < 0 || $position > $this->end) {
            throw MalformedBytes::at($this->position, "a position inside the message, not $position");
        }
        $this->position = $position;
    }

    public function uint8(): int
    {
        return ord($this->take(1));
    }

    public function uint16(): int
    {
        $b = $this->take(2);

        return ord($b[0]) << 8 | ord($b[1]);
    }

    public function uint32(): int
    {
        $b = $this->take(4);

        return ord($b[0]) << 24 | ord($b[1]) << 16 | ord($b[2]) << 8 | ord($b[3]);
    }

    public function take(int $count): string
    {
        if ($count < 0 || $this->remaining() < $count) {
            throw MalformedBytes::at($this->position, sprintf('%d more bytes, %d are left', $count, max(0, $this->remaining())));
        }
        $taken = substr($this->bytes, $this->position, $count);
        $this->position += $count;

        return $taken;
    }

    public function rest(): string
    {
        return $this->take($this->remaining());
    }

    /** @throws MalformedBytes when something is left over: a field with a declared length is consumed exactly */
    public function expectEnd(string $what): void
    {
        if (! $this->atEnd()) {
            throw MalformedBytes::at($this->position, sprintf('the end of %s, %d bytes are left', $what, $this->remaining()));
        }
    }
}
