<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Server;
use App\Models\ServerKind;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** Servers as the list shows them. Only who sees the whole network sees it. */
final class ServerList
{
    public const SORTS = [
        'kind' => ['servers.kind', '~servers.name'], 'name' => ['~servers.name'], 'address' => ['servers.address'],
        'site' => ['~sites.name', '~servers.name'],
    ];

    /** What a filter understands, with what it means. */
    public const WORDS = [
        'site:' => 'start of a site\'s name', 'does:dns' => 'answers zones', 'does:resolver' => 'resolves for others',
        'does:dhcp' => 'leases', 'does:network' => 'reads and sets switches', 'is:drifted' => 'runs something else than is meant',
        'is:silent' => 'did not answer when it was looked at', 'is:held' => 'nothing is brought to it',
    ];

    /** @var list<string> */
    public array $misread = [];

    public function __construct(private readonly string $filter)
    {
    }

    /** @return Listing<Server> */
    public function page(string $sort, int $page): Listing
    {
        $query = Server::query()->leftJoin('sites', 'sites.id', '=', 'servers.site_id')->select('servers.*')->with('site');
        $words = new FilterWords($this->filter);
        foreach ($words->words as [$key, $value, $word]) {
            $fits = match ($key) {
                null => $query->where('servers.name', 'like', FilterWords::start($value)),
                'site' => $query->where('sites.name', 'like', FilterWords::start($value)),
                'does' => ServerKind::tryFrom($value) === null ? null : $query->where('servers.kind', $value),
                'is' => self::is($query, $value),
                default => null,
            };
            if ($fits === null) {
                $words->misread($word, 'there are '.implode(', ', array_keys(self::WORDS)).', and names of servers');
                $query->whereRaw('1 = 0');
            }
        }
        $this->misread = $words->misread;

        return Listing::of($query, self::SORTS, $sort, $page, 'servers.id');
    }

    /**
     * @param  Builder<Server>  $query
     * @return ?Builder<Server>
     */
    private static function is(Builder $query, string $value): ?Builder
    {
        return match ($value) {
            'drifted' => $query->whereIn('servers.id', DB::table('drifts')->select('server_id')),
            'silent' => $query->whereIn('servers.id', DB::table('server_states')->whereNotNull('problem')->select('server_id')),
            'held' => $query->where('servers.held', true),
            default => null,
        };
    }
}
