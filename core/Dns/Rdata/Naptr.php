<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;

/** A rule by which a name is rewritten (RFC 3403 §4). */
final readonly class Naptr implements BuiltRdata
{
    use LaidOut;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::NAPTR);
    }

    public static function parts(): array
    {
        return [
            Part::uint16('order', '100'), Part::uint16('preference', '10'), Part::string('flags', 'S'),
            Part::string('services', 'SIP+D2U'), Part::string('expression', ''), Part::name('replacement, or a dot', '_sip._udp'),
        ];
    }

    private function check(): void
    {
        $expression = $this->values[4];
        $replacement = $this->values[5];
        if (is_string($expression) && $expression !== '' && $replacement instanceof Name && ! $replacement->isRoot()) {
            throw Malformed::because('an expression and a replacement exclude each other', 'RFC 3403 §4.1')->inField(5);
        }
        if (is_string($this->values[2]) && preg_match('/\A[A-Za-z0-9]*\z/', $this->values[2]) !== 1) {
            throw Malformed::because('flags are letters and digits', 'RFC 3403 §4.1')->inField(2);
        }
    }
}
