<?php

declare(strict_types=1);

namespace App\Live;

use App\Domain\Name\ParentDs;
use App\Domain\Name\Signing;
use App\Links\Names\DnsClient;
use App\Links\Unanswered;
use App\Models\Zone;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;

/** What each server of the parent says of the keys of a zone, asked by packet; where the parent is ours. */
final readonly class ParentLook
{
    /** @param  list<array{server: string, ds: ?list<string>, words: string}>  $servers  ds is null where nobody answered */
    private function __construct(public ?Zone $parent, public array $servers, private string $meant)
    {
    }

    public static function of(Zone $zone): self
    {
        $parent = Signing::parentOf($zone);
        $servers = [];
        $placements = $parent === null
            ? [] : ZoneServer::query()->with('server')->where('zone_id', $parent->id)->where('planned', false)->get();
        foreach ($placements as $placement) {
            $client = new DnsClient($placement->server->name, $placement->server->endpoint, (float) config('harbor.patience'));
            try {
                $answer = $client->ask($zone->origin(), RecordType::of(RecordType::DS), $zone->clientInView(), false)->message;
                $ds = array_values(array_map(
                    static fn (Record $r): string => $r->data->text(),
                    array_filter($answer->answers, static fn (Record $r): bool => $r->type()->number === RecordType::DS),
                ));
                sort($ds);
                $servers[] = ['server' => $placement->server->name, 'ds' => $ds, 'words' => $ds === []
                    ? 'names no key' : 'names '.implode(', ', array_map(
                        static fn (string $d): string => explode(' ', $d)[0],
                        $ds,
                    ))];
            } catch (Unanswered $e) {
                $servers[] = ['server' => $placement->server->name, 'ds' => null, 'words' => $e->getMessage()];
            }
        }

        return new self($parent, $servers, ParentDs::entry($zone)?->ds()->text() ?? '');
    }

    /** named when every server names the newest key alone, gone when none names any; null when they differ or do not answer */
    public function says(): ?string
    {
        $all = fn (array $ds): bool => $this->servers !== []
            && array_filter($this->servers, static fn (array $s): bool => $s['ds'] !== $ds) === [];

        return match (true) {
            $this->meant !== '' && $all([$this->meant]) => 'named',
            $all([]) => 'gone',
            default => null,
        };
    }
}
