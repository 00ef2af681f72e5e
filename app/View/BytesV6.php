<?php

declare(strict_types=1);

namespace App\View;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Net\Family;

/** The options of a message of DHCPv6 with what they mean, in the order in which they stand there. */
final class BytesV6
{
    /** @return list<array{code: int, name: string, bytes: string, means: string}> */
    public static function lines(Message $message): array
    {
        return array_map(static fn (array $o): array => [
            'code' => $o[0],
            'name' => OptionTable::definition($o[0], Family::V6)->name,
            'bytes' => sprintf('%04x %04x ', $o[0], strlen($o[1])).Hex::spaced($o[1]),
            'means' => self::means($o[0], $o[1]),
        ], $message->options->all);
    }

    private static function means(int $code, string $payload): string
    {
        $kind = AssociationKind::tryFrom($code);
        try {
            return match (true) {
                $kind !== null => self::association(Association::fromWire($kind, $payload)),
                $code === Code::CLIENT_ID, $code === Code::SERVER_ID => Duid::tryFrom($payload)?->words() ?? 'no DUID',
                $code === Code::STATUS => StatusCode::of($payload)->name ?? 'unknown',
                default => OptionTable::meaning($code, $payload, Family::V6),
            };
        } catch (MalformedBytes $e) {
            return "byte $e->offset: $e->expected was expected";
        }
    }

    private static function association(Association $one): string
    {
        $words = ["number $one->iaid"];
        foreach ($one->leases as $lease) {
            $words[] = $lease->words()." preferred $lease->preferred s, valid $lease->valid s";
        }
        if ($one->t1 > 0) {
            $words[] = "T1 $one->t1 s, T2 $one->t2 s";
        }
        $one->status === null ?: $words[] = $one->status->name;

        return implode('; ', $words);
    }
}
