<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns;

/** Remembers where names stand in a message, so that later ones can point there (RFC 1035 §4.1.4). One per message. */
final class NameCompressor
{
    /** @var array<string, int> lower-case wire suffix → offset */
    private array $seen = [];

    /** The name as it stands at that offset of the message: labels, then a pointer when a suffix was written before. */
    public function encode(Name $name, int $offset): string
    {
        $out = '';
        $wire = $name->wire;
        for ($at = 0; ord($wire[$at]) !== 0; $at += ord($wire[$at]) + 1) {
            $suffix = strtolower(substr($wire, $at));
            if (isset($this->seen[$suffix])) {
                return $out.pack('n', 0xC000 | $this->seen[$suffix]);
            }
            if ($offset + $at < 0x4000) {
                $this->seen[$suffix] = $offset + $at;
            }
            $out .= substr($wire, $at, ord($wire[$at]) + 1);
        }

        return $out."\0";
    }
}
