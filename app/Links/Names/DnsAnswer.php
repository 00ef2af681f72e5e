<?php

declare(strict_types=1);

namespace App\Links\Names;

use HarborPost\Core\Dns\Wire\Message;

/** One exchange of DNS packets: what was sent, what came back, over what, how long it took. */
final readonly class DnsAnswer
{
    public function __construct(
        public Message $query,
        public string $sent,
        public Message $message,
        public string $received,
        public string $over,
        public float $milliseconds,
        public bool $wasTruncated = false,
    ) {
    }
}
