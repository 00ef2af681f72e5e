<?php

declare(strict_types=1);

namespace App\Live;

use App\Models\Server;
use App\Queries\OwnOptions;
use App\Queries\ServedClient;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;

/** What was computed of an exchange against what packets told: each difference is a finding. */
final class ExchangeFindings
{
    /** Options that only messages carry, or that the server computes for itself. */
    private const OWN = [50, 51, 52, 53, 54, 55, 57, 58, 59, 61, 82];

    /** @return list<string> */
    public static function of(ServedClient $computed, Server $server, Exchange $observed): array
    {
        $meant = null;
        foreach ($computed->servers as $one) {
            $meant = $one['server']->id === $server->id ? $one : $meant;
        }
        $last = end($observed->steps);
        $ack = null;
        foreach ($observed->steps as $step) {
            $ack = $step['packet']?->type() === MessageType::Ack ? $step['packet'] : $ack;
        }
        if ($meant === null) {
            return $ack === null ? [] : ["$server->name answered although the scope is not placed on it"];
        }
        if ($ack === null || $last === false) {
            return $meant['silent'] === null ? ["$server->name did not give the address that was computed"] : [];
        }
        $found = $meant['silent'] === null ? [] : ["$server->name gave $ack->yourAddress although {$meant['silent']}"];
        if ($meant['address'] !== null && ! $ack->yourAddress->equals($meant['address'])) {
            $found[] = "$server->name gave $ack->yourAddress; computed was {$meant['address']}, {$meant['why']}";
        }

        return [...$found, ...self::options($meant['stack']->payloads(), $ack, $computed->packet)];
    }

    /**
     * @param  array<int, string>  $meant
     * @return list<string>
     */
    private static function options(array $meant, Packet $ack, Packet $asked): array
    {
        $wanted = $asked->options[OptionTable::PARAMETERS] ?? '';
        $codes = $wanted === '' ? array_keys($meant) : array_map(ord(...), str_split($wanted));
        $found = [];
        foreach (array_diff($codes, self::OWN, [OptionTable::MASK]) as $code) {
            $is = $ack->options[$code] ?? null;
            if ($is !== ($meant[$code] ?? null)) {
                $found[] = "option $code, ".OwnOptions::now()->definition($code)->name.': '
                    .($is === null ? 'nothing' : OwnOptions::now()->meaning($code, $is)).' was sent, '
                    .(isset($meant[$code]) ? OwnOptions::now()->meaning($code, $meant[$code]) : 'nothing').' was computed';
            }
        }
        foreach (array_diff(array_keys($ack->options), $codes, self::OWN, [OptionTable::MASK]) as $code) {
            $found[] = "option $code, ".OwnOptions::now()->definition($code)->name.', was sent although the client did not ask for it';
        }

        return $found;
    }
}
