<?php

declare(strict_types=1);

namespace App\Live;

use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\Record;
use App\Models\View;
use App\Models\Zone;
use App\Queries\Zones;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/** Which view a client falls into, and what it would be told there: by the plan and by a packet. */
final class ClientAnswer
{
    /**
     * @return array{client: string, name: string, view: ?View, by: string, planned: list<string>, answered: list<string>,
     *     server: string}|null what a client would be told by the plan, and is told by a packet
     */
    public static function of(string $typed, string $about): ?array
    {
        $client = Address::tryParse($typed);
        if ($client === null) {
            return $typed !== ''
                ? [
                    'client' => $typed, 'name' => '', 'view' => null, 'by' => 'that is no address', 'planned' => [], 'answered' => [],
                    'server' => '',
                ]
                : null;
        }
        $view = ResolverPath::viewOf($client);
        $by = collect($view->clients ?? [])->first(fn (string $p): bool => Prefix::tryParse($p)?->contains($client) === true);
        $name = Name::tryParse(rtrim($about, '.').'.');
        $planned = $answered = [];
        $server = '';
        $zone = $name === null || $view === null || $name->isRoot() ? null : Zones::closest($name, $view->id);
        if ($zone !== null && $zone->view_id === $view?->id && $name !== null) {
            $planned = array_values(
                Record::query()->where('zone_id', $zone->id)->where('owner_key', $name->sortKey())->orderBy('type')
                    ->limit(20)->get()->map(fn (Record $r): string => "{$r->typeName()} $r->data")->all(),
            );
            $holder = Zone::query()->with('placements.server')->find($zone->id)?->primaryPlacement()?->server;
            $server = $holder->name ?? '';
            try {
                foreach ($holder === null ? [] : [RecordType::A, RecordType::AAAA, RecordType::CNAME, RecordType::MX] as $type) {
                    foreach (
                        (new DnsClient($server, (string) $holder?->endpoint, 1.0))
                            ->ask($name, RecordType::of($type), $client, false)->message->answers as $record
                    ) {
                        $answered["{$record->type()} {$record->data->text()}"] = true;
                    }
                }
            } catch (Unanswered $e) {
                $answered[$e->getMessage()] = true;
            }
        }

        return [
            'client' => (string) $client, 'name' => rtrim((string) $name, '.'), 'view' => $view,
            'by' => $by ?? 'the first view, as none holds it', 'planned' => $planned, 'answered' => array_keys($answered),
            'server' => $server,
        ];
    }
}
