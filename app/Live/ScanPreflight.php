<?php

declare(strict_types=1);

namespace App\Live;

use App\Domain\Plan\ScanSpace;
use App\Links\Names\DnsClient;
use App\Links\NetworkLink;
use App\Links\Unanswered;
use App\Models\Prefix;
use App\Models\RunState;
use App\Models\Scan;
use App\Models\Server;
use App\Models\ServerKind;
use App\Queries\Inherited;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;
use Illuminate\Support\Collection;

/** Each thing that a scan needs: is it there, and if not, why and how to mend it. */
final class ScanPreflight
{
    /**
     * @param  Collection<int, Prefix>  $prefixes
     * @param  list<string>  $leftOut  ranges as typed
     * @return list<array{what: string, ok: bool, words: string, fix: string, stops: bool}>
     */
    public static function of(Collection $prefixes, array $leftOut): array
    {
        $checks = [];
        $add = function (string $what, bool $ok, string $words, string $fix = '', bool $stops = true) use (&$checks): void {
            $checks[] = ['what' => $what, 'ok' => $ok, 'words' => $words, 'fix' => $ok ? '' : $fix, 'stops' => $stops && ! $ok];
        };
        $link = NetworkLink::first();
        if ($link === null) {
            $add(
                'Somebody probes',
                false,
                'no server that probes the network is written down',
                'Write one down under Ship, with its control endpoint.',
            );
        } else {
            try {
                $link->hosts();
                $add('Somebody probes', true, "{$link->server->name} answers");
            } catch (Unanswered $e) {
                $add('Somebody probes', false, $e->getMessage(), "Start {$link->server->name}, or mend its endpoint under Ship.");
            }
        }
        $total = 0;
        try {
            $total = array_sum(array_map(fn (Prefix $p): int => ScanSpace::count($p, $leftOut), $prefixes->all()));
            $add(
                'Prefixes',
                $prefixes->isNotEmpty() && $total <= ScanSpace::MOST,
                $prefixes->isEmpty()
                    ? 'no subnet is chosen'
                    : number_format($total).' addresses in '.$prefixes->count().($prefixes->count() === 1 ? ' subnet' : ' subnets'),
                $prefixes->isEmpty()
                    ? 'Choose at least one.'
                    : 'At most '.number_format(ScanSpace::MOST).' in one scan; choose fewer subnets, or leave out runs.',
            );
        } catch (NotUnderstood $e) {
            $add('Runs left out', false, $e->getMessage(), 'Write first-last, a prefix or an address, one a line.');
        }
        $resolver = $prefixes->isEmpty() ? null : self::resolver($prefixes->first());
        if ($resolver === null) {
            $add(
                'Names are asked',
                false,
                'no resolver is set for these subnets, or none of them is a server that is written down',
                'Set resolvers for the site or the organisation; without one the scan goes without names.',
                false,
            );
        } else {
            try {
                (new DnsClient($resolver->name, $resolver->endpoint, 1.0))->ask(Name::parse('.'), RecordType::of(RecordType::NS));
                $add('Names are asked', true, "of $resolver->name, $resolver->address, as set for these subnets");
            } catch (Unanswered $e) {
                $add('Names are asked', false, $e->getMessage(), 'The scan can go without names; they stay blank then.', false);
            }
        }
        $running = Scan::query()->whereIn('state', RunState::RUNS)->first();
        $add(
            'No other scan',
            $running === null,
            $running === null ? 'none is running' : 'one is running, '.number_format($running->done).' of '.number_format($running->total),
            'Wait for it, or cancel it.',
        );

        return $checks;
    }

    /** The server that the clients of a subnet ask, where it is one of ours. */
    public static function resolver(Prefix $prefix): ?Server
    {
        foreach (app(Inherited::class)->of($prefix)['resolvers']['value'] as $text) {
            $address = Address::tryParse($text);
            $server = $address === null
                ? null
                : Server::query()->whereIn('kind', ServerKind::naming())->where('address', $address->bytes)->first();
            if ($server !== null) {
                return $server;
            }
        }

        return null;
    }
}
