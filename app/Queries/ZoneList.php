<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Zone;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** Zones as the list shows them: forward ones first where nothing else is asked for. */
final class ZoneList
{
    public const SORTS = [
        'zone' => ['is_reverse', 'zones.name', 'zones.view_id'], 'view' => ['views.name', 'is_reverse', 'zones.name'],
        'answers' => ['zones.silenced', 'is_reverse', 'zones.name'], 'ttl' => ['zones.default_ttl', 'zones.name'],
        'serial' => ['zones.serial', 'zones.name'],
    ];

    /** What a filter understands, with what it means. */
    public const WORDS = [
        'view:' => 'start of a view\'s name', 'server:' => 'start of a server\'s name', 'is:forward' => 'names',
        'is:reverse' => 'addresses', 'is:silenced' => 'no server answers for it', 'is:signed' => 'signed by a policy',
        'is:waiting' => 'with changes that were not shipped', 'is:unserved' => 'on no server',
    ];

    /** @var list<string> */
    public array $misread = [];

    public function __construct(private readonly Reach $reach, private readonly string $filter)
    {
    }

    /** @return Listing<Zone> */
    public function page(string $sort, int $page): Listing
    {
        $query = $this->query()->join('views', 'views.id', '=', 'zones.view_id')
            ->select('zones.*')->selectRaw("zones.name LIKE '%.arpa.' AS is_reverse")->with(['view', 'placements.server']);

        return Listing::of($query, self::SORTS, $sort, $page, 'zones.id');
    }

    /** @return Builder<Zone> */
    private function query(): Builder
    {
        $query = $this->reach->zones();
        $words = new FilterWords($this->filter);
        foreach ($words->words as [$key, $value, $word]) {
            $fits = match ($key) {
                // A part of a name finds it: there are far fewer zones than names in them.
                null => $query->where('zones.name', 'like', '%'.FilterWords::start(strtolower(rtrim($value, '.')))),
                'view' => $query->whereHas('view', fn ($q) => $q->where('name', 'like', FilterWords::start($value))),
                'server' => $query->whereHas('placements.server', fn ($q) => $q->where('name', 'like', FilterWords::start($value))),
                'is' => self::is($query, $value),
                default => null,
            };
            if ($fits === null) {
                $words->misread($word, 'there are '.implode(', ', array_keys(self::WORDS)).', and parts of a zone\'s name');
                $query->whereRaw('1 = 0');
            }
        }
        $this->misread = $words->misread;

        return $query;
    }

    /**
     * @param  Builder<Zone>  $query
     * @return ?Builder<Zone>
     */
    private static function is(Builder $query, string $value): ?Builder
    {
        return match ($value) {
            'forward' => $query->where('zones.name', 'not like', '%.arpa.'),
            'reverse' => $query->where('zones.name', 'like', '%.arpa.'),
            'silenced' => $query->where('zones.silenced', true),
            'signed' => $query->whereNotNull('zones.policy_id'),
            'waiting' => $query->whereIn('zones.id', DB::table('record_changes')->whereNull('serial')->select('zone_id')),
            'unserved' => $query->whereDoesntHave('placements'),
            default => null,
        };
    }
}
