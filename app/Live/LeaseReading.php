<?php

declare(strict_types=1);

namespace App\Live;

use App\Acts\Engine\Acts;
use App\Acts\Lease\KeepLeases;
use App\Acts\Lease\NoteLeaseRun;
use App\Links\BulkLeases;
use App\Links\BulkLeasesV6;
use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Lease;
use App\Models\Server;
use Carbon\CarbonImmutable;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Reads the leases of one server page by page, so that memory does not grow with their number, or only what changed since the last time,
 * and notes how it went.
 *
 * @phpstan-type Total array{added: int, changed: int, same: int, gone: int, refused: list<string>}
 */
final readonly class LeaseReading
{
    private const PAGE = 1000;

    /** A cursor of a server is a text of so many bytes at most. */
    private const CURSOR = 200;

    /** Seconds that a time may differ by, of which a server says only what is left. */
    private const SLACK = 2;

    /** Lines of what was refused that one reading keeps. */
    private const LISTED = 1000;

    public function __construct(private Acts $acts)
    {
    }

    /**
     * @return array{added: int, changed: int, same: int, gone: int, refused: list<string>}
     *
     * @throws Unanswered after what went wrong is noted
     */
    public function read(Server $server): array
    {
        $total = ['added' => 0, 'changed' => 0, 'same' => 0, 'gone' => 0, 'refused' => []];
        try {
            $mark = match (true) {
                $server->control === null => $this->pagesByStandard($server, $total),
                default => $this->byCursor($server, $total),
            };
        } catch (\Throwable $e) {
            $this->acts->commit(
                null,
                [
                    new NoteLeaseRun(
                        $server->id,
                        $total,
                        $e instanceof Unanswered
                            ? $e->getMessage()
                            : 'The answer could not be taken in: '.mb_strimwidth($e->getMessage(), 0, 200, '…'),
                    ),
                ],
            );
            throw $e;
        }
        $this->acts->commit(null, [new NoteLeaseRun($server->id, $total, mark: $mark)]);

        return $total;
    }

    /**
     * What changed since the last reading, where the server can tell; all of them once a day, and whenever that may have changed whose
     * they are: other subnets are leased from there than before.
     *
     * @param  Total  $total
     * @return ?array{cursor: string, plan: string, whole: bool} where the next reading goes on; null where it cannot
     */
    private function byCursor(Server $server, array &$total): ?array
    {
        $channel = new ControlChannel($server, (float) config('harbor.patience'));
        if (! $channel->does('changes')) {
            $this->pages($server, $total);

            return null;
        }
        $plan = self::plan($server);
        $known = DB::table('server_states')->where('server_id', $server->id)->first(['leases_cursor', 'leases_plan', 'leases_whole_at']);
        $goesOn = $known?->leases_cursor !== null && $known->leases_plan === $plan
            && CarbonImmutable::parse((string) $known->leases_whole_at)->isAfter(now()->subDay());
        $cursor = $goesOn ? (string) $known->leases_cursor : '';
        do {
            $answer = $channel->ask('lease-changes', ['since' => $cursor]);
            if (! is_string($answer['cursor'] ?? null) || strlen($answer['cursor']) > self::CURSOR) {
                throw Unanswered::nonsense($server->name, 'changes of leases without a cursor to go on with');
            }
            if (($answer['whole'] ?? false) === true) {
                $total = ['added' => 0, 'changed' => 0, 'same' => 0, 'gone' => 0, 'refused' => []];
                $this->pages($server, $total);

                return ['cursor' => $answer['cursor'], 'plan' => $plan, 'whole' => true];
            }
            $leases = array_values((array) ($answer['leases'] ?? []));
            $more = ($answer['more'] ?? false) === true;
            if ($more && $answer['cursor'] === $cursor) {
                throw Unanswered::nonsense($server->name, 'changes of leases that do not go on');
            }
            $gone = $this->among($server, (array) ($answer['gone'] ?? []));
            $leases === [] && $gone === [] ?: $this->keep(new KeepLeases($server->id, $leases, whole: false, gone: $gone), $total);
            $cursor = $answer['cursor'];
        } while ($more);
        $there = DB::table('leases')->where('server_id', $server->id)->whereNull('gone_at')->count();
        $total['same'] = max(0, $there - $total['added'] - $total['changed']);

        return ['cursor' => $cursor, 'plan' => $plan, 'whole' => false];
    }

    /**
     * @param  array<mixed>  $addresses
     * @return list<string> ids of rows that stand at them
     */
    private function among(Server $server, array $addresses): array
    {
        $bytes = [];
        foreach ($addresses as $address) {
            $at = is_string($address) ? Address::tryParse($address) : null;
            $at === null ?: $bytes[] = $at->bytes;
        }

        return $bytes === [] ? [] : array_values(Lease::query()->where('server_id', $server->id)->whereNull('gone_at')
            ->whereIn('address', $bytes)->pluck('id')->map(strval(...))->all());
    }

    /** Which subnets are leased from there: by them a lease belongs to a scope. */
    private static function plan(Server $server): string
    {
        $rows = DB::table('scopes')->join('prefixes', 'prefixes.id', '=', 'scopes.prefix_id')
            ->join('scope_servers', 'scope_servers.scope_id', '=', 'scopes.id')->where('scope_servers.server_id', $server->id)
            ->orderBy('scopes.id')->get(['scopes.id', 'prefixes.first', 'prefixes.length']);

        $line = static fn (\stdClass $r): string => "$r->id ".bin2hex((string) $r->first)." $r->length";

        return hash('sha256', $rows->map($line)->implode("\n"));
    }

    /** @param  Total  $total */
    private function pages(Server $server, array &$total): void
    {
        $channel = new ControlChannel($server, (float) config('harbor.patience'));
        $after = '';
        $ordered = true;
        do {
            $page = array_values((array) ($channel->ask('leases', ['after' => $after])['leases'] ?? []));
            $last = count($page) < self::PAGE;
            [$until, $inOrder] = self::extent($page, $after);
            $ordered = $ordered && $inOrder;
            if (! $last && ($until === null || $until === $after)) {
                throw Unanswered::nonsense(
                    $server->name,
                    'leases page by page; it does not go on behind '.($after === '' ? 'the first page' : $after),
                );
            }
            $this->keep(new KeepLeases($server->id, $page, $after, $last ? null : $until, $ordered), $total);
            $after = (string) $until;
        } while (! $last);
        if (! $ordered) {
            $total['refused'][] = 'The server does not list its leases in the order of addresses, so none was marked as gone.';
        }
    }

    /**
     * A server that others run is asked as the standards say, in each family that it leases. It lists in any order, and what it does not
     * tell of is gone when it has told of all the rest, and not before.
     *
     * @param  Total  $total
     * @return null none gives a cursor
     */
    private function pagesByStandard(Server $server, array &$total): null
    {
        $links = self::linksV6($server);
        if ($links === [] || self::leases($server, Family::V4)) {
            $bulk = new BulkLeases($server->name, $server->endpoint, (float) config('harbor.patience'));
            $told = $this->told($server, $bulk->pages(self::PAGE), $total);
            $this->gone($server, $told, Lease::query()->whereRaw('LENGTH(address) = 4'), $total);
        }
        $bulk = new BulkLeasesV6($server->name, $server->endpoint, (float) config('harbor.patience'));
        foreach ($links as $link) {
            $told = $this->told($server, $bulk->pages($link->first, self::PAGE), $total, self::SLACK);
            $there = Lease::query()->whereBetween('address', [$link->first->bytes, $link->last()->bytes])->whereRaw('LENGTH(address) = 16');
            $this->gone($server, $told, $there, $total);
        }

        return null;
    }

    private static function leases(Server $server, Family $family): bool
    {
        return DB::table('scopes')->join('prefixes', 'prefixes.id', '=', 'scopes.prefix_id')
            ->join('scope_servers', 'scope_servers.scope_id', '=', 'scopes.id')->where('scope_servers.server_id', $server->id)
            ->whereRaw('LENGTH(prefixes.first) = ?', [$family === Family::V4 ? 4 : 16])->exists();
    }

    /** @return list<Net> subnets of IPv6 that are leased from there */
    private static function linksV6(Server $server): array
    {
        $rows = DB::table('scopes')->join('prefixes', 'prefixes.id', '=', 'scopes.prefix_id')
            ->join('scope_servers', 'scope_servers.scope_id', '=', 'scopes.id')->where('scope_servers.server_id', $server->id)
            ->whereRaw('LENGTH(prefixes.first) = 16')->distinct()->orderBy('prefixes.first')->get(['prefixes.first', 'prefixes.length']);
        $net = static fn (\stdClass $r): Net => Net::of(Address::fromBytes((string) $r->first), (int) $r->length);

        return array_values($rows->map($net)->all());
    }

    /**
     * @param  iterable<list<array{address: string, ...}>>  $pages
     * @param  Total  $total
     * @return array<string, string> addresses that were told of, a bit each
     */
    private function told(Server $server, iterable $pages, array &$total, int $slack = 0): array
    {
        $told = [];
        foreach ($pages as $page) {
            foreach ($page as $lease) {
                self::mark($told, Address::parse($lease['address'])->bytes);
            }
            $this->keep(new KeepLeases($server->id, array_values($page), whole: false, slack: $slack), $total);
        }

        return $told;
    }

    /**
     * @param  array<string, string>  $told
     * @param  Builder<Lease>  $there
     * @param  Total  $total
     */
    private function gone(Server $server, array $told, Builder $there, array &$total): void
    {
        $rows = $there->where('server_id', $server->id)->whereNull('gone_at')->toBase()->select(['id', 'address']);
        foreach ($rows->lazyById(self::PAGE)->chunk(self::PAGE) as $some) {
            $gone = $some->reject(static fn (\stdClass $row): bool => self::isMarked($told, (string) $row->address))->pluck('id')->all();
            $gone === [] ?: $this->keep(new KeepLeases($server->id, [], whole: false, gone: array_values($gone)), $total);
        }
    }

    /** @param  Total  $total */
    private function keep(KeepLeases $act, array &$total): void
    {
        $log = $this->acts->commit(null, [$act])->made('leases');
        foreach (is_array($log) ? ['added', 'changed', 'same', 'gone'] : [] as $what) {
            $total[$what] += (int) $log[$what];
        }
        foreach (is_array($log) ? (array) $log['refused'] : [] as $line) {
            if (count($total['refused']) < self::LISTED && is_string($line)) {
                $total['refused'][] = $line;
            }
        }
    }

    /**
     * Addresses that were told of, a bit each: what is kept of a million stays small.
     *
     * @param  array<string, string>  $told  all bytes but the last → 256 bits
     */
    private static function mark(array &$told, string $address): void
    {
        $net = substr($address, 0, -1);
        $told[$net] ??= str_repeat("\0", 32);
        $at = ord($address[-1]);
        $told[$net][$at >> 3] = chr(ord($told[$net][$at >> 3]) | 1 << ($at & 7));
    }

    /** @param  array<string, string>  $told */
    private static function isMarked(array $told, string $address): bool
    {
        $at = ord($address[-1]);

        return (ord($told[substr($address, 0, -1)][$at >> 3] ?? "\0") & 1 << ($at & 7)) !== 0;
    }

    /**
     * @param  list<mixed>  $page
     * @return array{?string, bool} the highest address, and whether all stand in order
     */
    private static function extent(array $page, string $after): array
    {
        $at = Address::tryParse($after);
        $ordered = true;
        foreach ($page as $one) {
            $address = is_array($one) && is_string($one['address'] ?? null) ? Address::tryParse($one['address']) : null;
            if ($address === null) {
                continue;
            }
            $ordered = $ordered && ($at === null || $at->compare($address) < 0);
            $at = $at === null || $at->compare($address) < 0 ? $address : $at;
        }

        return [$at === null ? null : (string) $at, $ordered];
    }
}
