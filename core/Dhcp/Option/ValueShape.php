<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

/**
 * How the values of an option stand in its payload.
 *
 * decode(encode(values)) gives the same values, written in their normal form; encode(decode(bytes)) gives the same bytes.
 */
interface ValueShape
{
    /** What one value looks like, for a form or a message. */
    public function hint(): string;

    /**
     * @param  list<string>  $values
     * @return string the payload, without code and length
     *
     * @throws \HarborPost\Core\Dhcp\BadOption
     */
    public function encode(array $values): string;

    /**
     * @return list<string> one text a value
     *
     * @throws \HarborPost\Core\Dhcp\BadOption
     */
    public function decode(string $payload): array;
}
