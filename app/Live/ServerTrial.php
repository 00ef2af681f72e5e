<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\Links;
use App\Links\Names\NameLink;
use App\Links\Unanswered;
use App\Models\Part;
use App\Models\Server;
use App\Models\Zone;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Zone\UpdateRequest;

/**
 * Whether a name server that keeps the standards lets us do what shipping needs, tried step by step. Nothing is changed: an update that
 * asks whether the zone is there and changes nothing is refused to who may not update (RFC 2136 §3.3).
 *
 * @phpstan-type Step array{what: string, good: bool, words: string}
 */
final class ServerTrial
{
    /** Zones that are tried, and how many more there are is said. */
    public const ZONES = 20;

    /** @return list<Step> the first that is not good ends it, but for zones, which are tried one by one */
    public static function of(Server $server): array
    {
        $link = Links::to($server);
        if (! $link instanceof NameLink) {
            return [];
        }
        $steps = [];
        [$host, $port] = [substr($server->endpoint, 0, (int) strrpos($server->endpoint, ':')), strrchr($server->endpoint, ':')];
        $start = microtime(true);
        $socket = @stream_socket_client("tcp://$server->endpoint", $code, $why, (float) config('harbor.patience'));
        $steps[] = self::step('Name and port', $socket !== false, $socket === false
            ? "$host does not take connections at port ".substr((string) $port, 1).': '.strtolower($why ?: 'no answer')
            : sprintf('taken in %.0f ms', (microtime(true) - $start) * 1000));
        if ($socket === false) {
            return $steps;
        }
        fclose($socket);
        try {
            $answer = $link->reader()->ask(Name::root(), RecordType::of(RecordType::SOA), recursion: false);
            $steps[] = self::step(
                'Key', true, "its answer is signed by {$server->key?->title()} ({$server->key?->algorithm->value}) and holds, after "
                    .sprintf('%.0f ms', $answer->milliseconds),
            );
        } catch (Unanswered $e) {
            return [...$steps, self::step('Key', false, $e->getMessage())];
        }
        $placed = ZoneServer::query()->where('server_id', $server->id);
        $placements = (clone $placed)->with(['zone.view', 'zone.placements.server'])->limit(self::ZONES)->get();
        foreach ($placements as $placement) {
            $steps[] = self::zone($link, $placement);
        }
        $more = $placed->count() - $placements->count();
        if ($more > 0) {
            $steps[] = self::step('Zones', true, "$more more are placed there and were not tried");
        }
        if ($placements->isEmpty()) {
            $steps[] = self::step('Zones', true, 'none is placed there yet, so transfers and updates could not be tried');
        }

        return $steps;
    }

    /** @return Step */
    private static function zone(NameLink $link, ZoneServer $placement): array
    {
        $zone = $placement->zone;
        try {
            $serial = $link->reader()->serial($zone->origin());
            if ($serial === null) {
                $how = $placement->part === Part::Secondary ? ' as a secondary' : ', and let the key transfer and update it';

                return self::step($zone->title(), false, "it does not have the zone: make it there$how");
            }
            // Asked for what came since the serial that it has, it sends its SOA and no more.
            $link->reader()->since($zone->origin(), $zone->soa($serial));
            $words = "serial $serial, transfers";
            $takes = $placement->part === Part::Secondary ? null : $link->reader()->update(self::nothing($zone));

            return self::step($zone->title(), ($takes ?? Rcode::NoError) === Rcode::NoError, match ($takes) {
                null => "$words; a secondary, so it is never updated from here",
                Rcode::NoError => "$words and takes updates",
                default => "$words, and takes no updates: {$takes->explained()}",
            });
        } catch (Unanswered $e) {
            return self::step($zone->title(), false, $e->getMessage());
        }
    }

    private static function nothing(Zone $zone): UpdateRequest
    {
        return new UpdateRequest($zone->origin(), [UpdateRequest::whole($zone->origin(), RecordType::of(RecordType::SOA))], []);
    }

    /** @return Step */
    private static function step(string $what, bool $good, string $words): array
    {
        return ['what' => $what, 'good' => $good, 'words' => $words];
    }
}
