<?php

declare(strict_types=1);

namespace HarborPost\Core\Dhcp\V6;

use HarborPost\Core\Net\MacAddress;
use HarborPost\Core\Net\NotUnderstood;

/** A client as one writes it for a reservation: its DUID, and `iaid 7` behind it where one of its associations is meant. */
final readonly class Client implements \Stringable
{
    private function __construct(public Duid $duid, public ?int $iaid)
    {
    }

    /** @param  int  $iaid  below zero: any */
    public static function of(string $duid, int $iaid): ?self
    {
        $client = Duid::tryFrom($duid);

        return $client === null ? null : new self($client, $iaid < 0 ? null : $iaid);
    }

    /** @throws NotUnderstood */
    public static function parse(string $text): self
    {
        if (preg_match('/\A(.*?)(?:\s+iaid\s+(\d{1,10}))?\s*\z/is', $text, $m) !== 1 || (int) ($m[2] ?? 0) > 0xFFFFFFFF) {
            throw NotUnderstood::at($text, 0, 'a DUID, and "iaid 7" behind it where one number is meant');
        }
        $mac = MacAddress::tryParse(trim($m[1]));
        if ($mac !== null) {
            throw NotUnderstood::at($text, 0, 'a DUID and not a MAC address; the DUID-LL of this one is '.Duid::ofMac($mac));
        }

        return new self(Duid::parse($m[1]), isset($m[2]) ? (int) $m[2] : null);
    }

    public function __toString(): string
    {
        return $this->duid.($this->iaid === null ? '' : " iaid $this->iaid");
    }
}
