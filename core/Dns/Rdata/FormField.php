<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

/** One field of a record's data, as people fill it in. */
final readonly class FormField
{
    /**
     * @param  'ipv4'|'ipv6'|'name'|'number'|'word'|'text'|'raw'|'rest'  $kind  text is written without its quotes, RFC 1035 escapes undone
     *                                                               only where they are needed; raw and rest are presentation form as it
     * is, rest may be blank
     */
    public function __construct(
        public string $label,
        public string $example,
        public string $kind,
        /** of a number: 8, 16 or 32 */
        public int $bits = 16,
        /** the last field may stand several times */
        public bool $repeats = false,
    ) {
    }
}
