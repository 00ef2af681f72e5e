<?php

declare(strict_types=1);

namespace App\Live;

use App\Acts\Engine\Acts;
use App\Acts\Lease\KeepLeases;
use App\Acts\Lease\NoteLeaseRun;
use App\Links\BulkLeases;
use App\Links\ControlChannel;
use App\Links\Unanswered;
use App\Models\Lease;
use App\Models\Server;
use HarborPost\Core\Net\Address;

/**
 * Reads the leases of one server page by page, so that memory does not grow with their number, and notes how it went.
 *
 * @phpstan-type Total array{added: int, changed: int, same: int, gone: int, refused: list<string>}
 */
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
            $server->control === null ? $this->pagesByStandard($server, $total) : $this->pages($server, $total);
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
     * A server that others run is asked as the standards say. It lists in any order, and what it does not tell of is gone when it has told
     * of all the rest, and not before.
     *
     * @param  Total  $total
     */
    private function pagesByStandard(Server $server, array &$total): void
    {
        $told = [];
        foreach ((new BulkLeases($server->name, $server->endpoint, (float) config('harbor.patience')))->pages(self::PAGE) as $page) {
            foreach ($page as $lease) {
                self::mark($told, Address::parse($lease['address'])->bytes);
            }
            $this->keep(new KeepLeases($server->id, $page, whole: false), $total);
        }
        $there = Lease::query()->where('server_id', $server->id)->whereNull('gone_at')->whereRaw('LENGTH(address) = 4')->toBase();
        foreach ($there->select(['id', 'address'])->lazyById(self::PAGE)->chunk(self::PAGE) as $rows) {
            $gone = $rows->reject(static fn (\stdClass $row): bool => self::isMarked($told, (string) $row->address))->pluck('id')->all();
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
     * @param  array<string, string>  $told  first three bytes → 256 bits
     */
    private static function mark(array &$told, string $address): void
    {
        $net = substr($address, 0, 3);
        $told[$net] ??= str_repeat("\0", 32);
        $at = ord($address[3]);
        $told[$net][$at >> 3] = chr(ord($told[$net][$at >> 3]) | 1 << ($at & 7));
    }

    /** @param  array<string, string>  $told */
    private static function isMarked(array $told, string $address): bool
    {
        $at = ord($address[3]);

        return (ord($told[substr($address, 0, 3)][$at >> 3] ?? "\0") & 1 << ($at & 7)) !== 0;
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
