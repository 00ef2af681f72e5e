<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

/** Mnemonics of key algorithms that may be written for their numbers (RFC 4034 appendix A.1 and its successors). */
final class DnssecAlgorithms
{
    public const NAMES = [
        1 => 'RSAMD5', 3 => 'DSA', 5 => 'RSASHA1', 6 => 'DSA-NSEC3-SHA1', 7 => 'RSASHA1-NSEC3-SHA1', 8 => 'RSASHA256',
        10 => 'RSASHA512', 13 => 'ECDSAP256SHA256', 14 => 'ECDSAP384SHA384', 15 => 'ED25519', 16 => 'ED448',
    ];
}
