<?php

declare(strict_types=1);

namespace App\Live;

use App\Acts\Engine\Acts;
use App\Acts\Lease\KeepLeases;
use App\Acts\Lease\NoteLeaseRun;
use App\Links\BulkLeases;
use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Scope;
use App\Models\Server;
use HarborPost\Core\Net\Address;

/** Reads the leases of one server page by page, so that memory does not grow with their number, and notes how it went. */
final readonly class LeaseReading
{
    private const PAGE = 1000;

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
            $this->pages($server, $total);
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
        $this->acts->commit(null, [new NoteLeaseRun($server->id, $total)]);

        return $total;
    }

    /** @param  array{added: int, changed: int, same: int, gone: int, refused: list<string>}  $total */
    private function pages(Server $server, array &$total): void
    {
        $source = $server->control === null ? self::byStandard($server) : null;
        $channel = new ControlChannel($server, (float) config('harbor.patience'));
        $after = '';
        $ordered = true;
        do {
            $page = $source?->current() ?? array_values((array) ($channel->ask('leases', ['after' => $after])['leases'] ?? []));
            $source?->next();
            $last = $source === null ? count($page) < self::PAGE : ! $source->valid();
            [$until, $inOrder] = self::extent($page, $after);
            $ordered = $ordered && $inOrder;
            if (! $last && ($until === null || $until === $after)) {
                throw Unanswered::nonsense(
                    $server->name,
                    'leases page by page; it does not go on behind '.($after === '' ? 'the first page' : $after),
                );
            }
            $log = $this->acts->commit(null, [new KeepLeases($server->id, $page, $after, $last ? null : $until, $ordered)])->made('leases');
            foreach (is_array($log) ? ['added', 'changed', 'same', 'gone'] : [] as $what) {
                $total[$what] += (int) $log[$what];
            }
            foreach (is_array($log) ? (array) $log['refused'] : [] as $line) {
                if (count($total['refused']) < self::LISTED && is_string($line)) {
                    $total['refused'][] = $line;
                }
            }
            $after = (string) $until;
        } while (! $last);
        if (! $ordered) {
            $total['refused'][] = 'The server does not list its leases in the order of addresses, so none was marked as gone.';
        }
    }

    /**
     * A server that we do not control is asked as the standards say; which scope a lease is of, it does not tell: the plan knows.
     *
     * @return \Generator<int, list<mixed>>
     */
    private static function byStandard(Server $server): \Generator
    {
        $rows = Scope::query()->join('scope_servers', 'scope_servers.scope_id', '=', 'scopes.id')->select('scopes.*')->with('prefix')
            ->where('scope_servers.server_id', $server->id)->get();
        $subnets = [];
        foreach ($rows as $scope) {
            $net = $scope->prefix->prefix();
            $subnets[] = [$net->first->bytes, $net->last()->bytes, $scope->id];
        }
        sort($subnets);
        $pages = (new BulkLeases($server->name, $server->endpoint, (float) config('harbor.patience')))->pages(self::PAGE);
        foreach ($pages as $page) {
            yield array_map(
                static fn (array $lease): array => $lease + ['scope' => self::among($subnets, Address::parse($lease['address'])->bytes)],
                $page,
            );
        }
    }

    /** @param  list<array{string, string, string}>  $subnets  first, last and scope, in order and apart from each other */
    private static function among(array $subnets, string $address): string
    {
        for ($low = 0, $high = count($subnets); $low < $high;) {
            $middle = intdiv($low + $high, 2);
            strcmp($subnets[$middle][0], $address) <= 0 ? $low = $middle + 1 : $high = $middle;
        }
        $before = $subnets[$low - 1] ?? null;

        return $before !== null && strcmp($address, $before[1]) <= 0 ? $before[2] : '';
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
