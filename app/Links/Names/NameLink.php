<?php

declare(strict_types=1);

namespace App\Links\Names;

use App\Links\Link;
use App\Links\Unanswered;
use App\Models\Zone;

/** How a server of names is read and written. */
interface NameLink extends Link
{
    /** Asks and transfers by packets, with whatever lets it read. */
    public function reader(): DnsClient;

    /**
     * What the server itself says of a zone beside its records: transfers, times, terms. Nothing where it has no way to tell.
     *
     * @return array<string, mixed>
     *
     * @throws Unanswered
     */
    public function told(Zone $zone): array;

    /**
     * The running zone, read as a whole, against the intended one.
     *
     * @return array{list<string>, list<string>} lines that only the server has, and lines that only the plan has
     *
     * @throws Unanswered
     */
    public function drift(Zone $zone): array;

    /**
     * Has a secondary ask its primary now.
     *
     * @throws Unanswered
     */
    public function fetch(Zone $zone): void;

    /**
     * @return array<string, int> "owner type" → when a client last registered or renewed it
     *
     * @throws Unanswered
     */
    public function renewals(Zone $zone): array;
}
