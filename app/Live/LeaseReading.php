<?php

declare(strict_types=1);

namespace App\Live;

use App\Acts\Engine\Acts;
use App\Acts\Lease\KeepLeases;
use App\Acts\Lease\NoteLeaseRun;
use App\Links\ControlChannel;
use App\Links\Unanswered;
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
