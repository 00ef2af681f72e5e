<?php

declare(strict_types=1);

namespace HarborPost\Core\Exchange\V6;

use HarborPost\Core\Net\Prefix;

/**
 * What is leased now and was leased before, as whoever computes an answer knows it. Keys are those of {@see
 * \HarborPost\Core\Dhcp\V6\Association::key()}.
 */
interface Held
{
    /** Who holds the address or the prefix now: the key of a client, or blank when it is held back from everybody; null: nobody. */
    public function holder(Prefix $net, int $now): ?string;

    /** @return list<Prefix> what the client has now under this key */
    public function current(string $key, int $now): array;

    /** What the client had last under this key, whether it ended or not. */
    public function last(string $key): ?Prefix;
}
