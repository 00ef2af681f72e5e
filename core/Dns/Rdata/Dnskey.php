<?php

declare(strict_types=1);

namespace HarborPost\Core\Dns\Rdata;

use HarborPost\Core\Dns\RecordType;

/** A public key that signs the zone (RFC 4034 §2.1). */
final readonly class Dnskey implements BuiltRdata
{
    use KeyData;

    /** The key may sign record sets of the zone. */
    public const ZONE = 0x100;

    /** The entry point that the parent's DS names, by custom. */
    public const SEP = 1;

    /** Whoever trusts it trusts it no more (RFC 5011 §2.1). */
    public const REVOKED = 0x80;

    public function type(): RecordType
    {
        return RecordType::of(RecordType::DNSKEY);
    }
}
