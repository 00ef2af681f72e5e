<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\Option;

use HarborPost\Core\Dhcp\BadOption;

/** Characters without a closing zero byte (RFC 2132 §2); one that a server sends is taken off for people. */
final readonly class Text implements ValueShape
{
    public function hint(): string
    {
        return 'a text';
    }

    public function encode(array $values): string
    {
        $text = implode(' ', $values);

        return $text !== '' ? $text : throw BadOption::value('', 'a text of at least one character');
    }

    public function decode(string $payload): array
    {
        if ($payload === '') {
            throw BadOption::bytes(0, 'a text of at least one character');
        }

        return [mb_scrub(rtrim($payload, "\0"), 'UTF-8')];
    }
}
