<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Names;

/** Who writes names of leases into the name service (RFC 4702 §4). */
enum LeaseNames: string
{
    /** the lease server writes address and pointer */
    case Server = 'server';
    /** the client writes its address, the lease server the pointer */
    case Client = 'client';
    case Nobody = 'nobody';

    public function title(): string
    {
        return match ($this) {
            self::Server => 'the lease server, address and pointer',
            self::Client => 'the client its address, the lease server the pointer',
            self::Nobody => 'nobody',
        };
    }
}
