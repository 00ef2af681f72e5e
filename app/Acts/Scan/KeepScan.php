<?php

declare(strict_types=1);

namespace App\Acts\Scan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\RunState;
use App\Models\Scan;
use App\Models\SightingVerdict;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\DB;

/** What a scan found in one stretch, and how far it is: written together, so that a scan that was cut off goes on where it stopped. */
final readonly class KeepScan extends Act
{
    /**
     * @param  list<array{address: string, prefix: string, host: ?string, mac: string, ptr: string, verdict: SightingVerdict, words: string,
     *     answered: bool}>  $results
     */
    public function __construct(
        public string $scan,
        public RunState $state,
        public int $done = 0,
        public array $results = [],
        public string $message = '',
    ) {
    }

    public function title(): string
    {
        return 'Keep what a scan found';
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('plan.scan', $this->scan);
    }

    public function apply(Ledger $ledger): void
    {
        $scan = Scan::query()->lockForUpdate()->find($this->scan) ?? $ledger->refuse('gone', 'The scan is not there any more');
        if (! $scan->state->runs()) {
            $ledger->refuse('scan-over', "The scan is {$scan->state->value}");
        }
        $now = $ledger->at->format('Y-m-d H:i:s');
        $results = $sightings = [];
        foreach ($this->results as $one) {
            $address = Address::parse($one['address']);
            $mac = $one['mac'] === '' ? null : MacAddress::parse($one['mac'])->bytes;
            $results[] = [
                'scan_id' => $scan->id, 'family' => $address->family->value, 'address' => $address->bytes,
                'prefix_id' => $one['prefix'], 'host_id' => $one['host'], 'mac' => $mac, 'ptr' => $one['ptr'],
                'verdict' => $one['verdict']->value, 'words' => $one['words'],
            ];
            if ($one['answered']) {
                $sightings[] = [
                    'space_id' => $scan->space_id, 'family' => $address->family->value, 'address' => $address->bytes, 'mac' => $mac,
                    'ptr' => $one['ptr'], 'first_seen' => $now, 'last_seen' => $now,
                ];
            }
        }
        foreach (array_chunk($results, 500) as $chunk) {
            DB::table('scan_results')->insert($chunk);
        }
        foreach (array_chunk($sightings, 500) as $chunk) {
            DB::table('sightings')->upsert($chunk, ['space_id', 'family', 'address'], ['mac', 'ptr', 'last_seen']);
        }
        // Progress of a machine: no entry in the history of people's acts.
        Scan::query()->whereKey($scan->id)->update([
            'state' => $this->state, 'done' => max($scan->done, $this->done), 'answered' => $scan->answered + count($sightings),
            'message' => $this->message,
            'started_at' => $scan->started_at?->format('Y-m-d H:i:s') ?? $now,
            'finished_at' => $this->state === RunState::Running ? null : $now,
        ]);
    }
}
