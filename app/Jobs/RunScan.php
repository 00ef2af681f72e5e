<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Acts\Engine\Acts;
use App\Acts\Scan\KeepScan;
use App\Domain\Plan\ScanSpace;
use App\Links\Names\DnsClient;
use App\Links\NetworkLink;
use App\Links\Unanswered;
use App\Live\ScanPreflight;
use App\Models\Host;
use App\Models\Lease;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\RunState;
use App\Models\Scan;
use App\Models\Scope;
use App\Models\SightingVerdict;
use App\Queries\InUse;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Queue\InteractsWithQueue;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** Sweeps the subnets of a scan stretch by stretch and compares with the plan. Run again after a crash, it goes on where it stopped. */
final class RunScan implements ShouldQueue
{
    use Dispatchable, InteractsWithQueue, Queueable;

    /** Addresses that are asked and written together. */
    private const STEP = 1024;

    public int $timeout = 3600;

    public function __construct(public readonly string $scan)
    {
    }

    public function handle(Acts $acts): void
    {
        $scan = Scan::query()->find($this->scan);
        if ($scan === null || ! $scan->state->runs()) {
            return;
        }
        $skip = $scan->done;
        $done = 0;
        try {
            $link = NetworkLink::first() ?? throw Unanswered::closed('the network', '-', 'no server that probes is written down');
            foreach (Prefix::query()->whereIn('id', $scan->prefixes)->orderBy('family')->orderBy('first')->get() as $prefix) {
                $resolver = ScanPreflight::resolver($prefix);
                $dns = $resolver === null ? null : new DnsClient($resolver->name, $resolver->endpoint, 1.0);
                foreach ($this->steps($prefix, $scan->left_out) as $step) {
                    $count = $step instanceof AddressRange ? $step->size()->toInt() : count($step);
                    $done += $count;
                    if ($done <= $skip) {
                        continue;
                    }
                    $answers = $step instanceof AddressRange ? $link->probe($step) : $link->probeEach($step);
                    if (
                        $acts
                            ->commit(null, [
                                new KeepScan($scan->id, RunState::Running, $done, $this->compare($prefix, $step, $answers, $dns)),
                            ])
                            ->blocked()
                    ) {
                        return; // Cancelled meanwhile.
                    }
                }
            }
            $acts->commit(null, [new KeepScan($scan->id, RunState::Done, $done)]);
        } catch (Unanswered $e) {
            $acts->commit(
                null,
                [new KeepScan($scan->id, RunState::Failed, min($done, $scan->done), [], mb_strimwidth($e->getMessage(), 0, 250, '…'))],
            );
        }
    }

    /**
     * @param  list<string>  $leftOut
     * @return \Generator<int, AddressRange|list<Address>>
     */
    private function steps(Prefix $prefix, array $leftOut): \Generator
    {
        foreach (ScanSpace::stretches($prefix, $leftOut) as $stretch) {
            for ($first = $stretch->first; $first !== null && $first->compare($stretch->last) <= 0; $first = $last->next()) {
                $last = $first->plus(self::STEP - 1) ?? $stretch->last;
                $last = $last->compare($stretch->last) > 0 ? $stretch->last : $last;
                yield AddressRange::of($first, $last);
            }
        }
        if ($prefix->family === 6 && $prefix->length < 112) {
            foreach (Host::query()->where('prefix_id', $prefix->id)->orderBy('address')->get()->chunk(self::STEP) as $chunk) {
                yield array_values($chunk->map(fn (Host $h): Address => $h->address)->all());
            }
        }
    }

    /**
     * @param  AddressRange|list<Address>  $step
     * @param  array<string, ?MacAddress>  $answers
     * @return list<array{address: string, prefix: string, host: ?string, mac: string, ptr: string, verdict: SightingVerdict, words: string,
     *     answered: bool}>
     */
    private function compare(Prefix $prefix, AddressRange|array $step, array $answers, ?DnsClient $dns): array
    {
        $range = $step instanceof AddressRange
            ? [$step->first->bytes, $step->last->bytes]
            : [$step[0]->bytes, $step[count($step) - 1]->bytes];
        $hosts = Host::query()->where('prefix_id', $prefix->id)->whereBetween('address', $range)->orderBy('address')
            ->get()->keyBy(fn (Host $h): string => (string) $h->address);
        $scope = Scope::query()->where('prefix_id', $prefix->id)->value('id');
        $leased = $scope === null
            ? collect()
            : InUse::activeLeases()->where('scope_id', $scope)->whereBetween('address', $range)->get()
                ->keyBy(fn (Lease $l): string => (string) $l->address);
        $before = DB::table('sightings')->where('space_id', $prefix->space_id)->where('family', $prefix->family)
            ->whereBetween('address', $range)->pluck('last_seen', 'address')
            ->mapWithKeys(fn ($at, $a): array => [bin2hex((string) $a) => (string) $at]);
        $named = Record::query()->whereIn('address_id', $hosts->pluck('id'))
            ->whereIn('type', [RecordType::A, RecordType::AAAA])->pluck('address_id')->flip();
        $results = [];
        foreach ($answers as $text => $mac) {
            $address = Address::parse($text);
            $host = $hosts[$text] ?? null;
            $isGateway = $prefix->gateway !== null && $prefix->gateway->equals($address);
            $ptr = $this->ptr($dns, $address);
            [$verdict, $words] = match (true) {
                $host === null => $isGateway ? [SightingVerdict::Agrees, 'the gateway'] : $this->unplanned($leased, $text, $mac),
                $mac !== null && $host->mac !== null && ! $host->mac->equals($mac) => [SightingVerdict::OtherMac, "planned is $host->mac"],
                $ptr === '' && $dns !== null && isset($named[$host->id]) => [SightingVerdict::NoPointer, 'the address does not point back'],
                $ptr !== '' && $host->name !== '' && $ptr !== $host->name => [SightingVerdict::OtherName, "planned is $host->name"],
                default => [SightingVerdict::Agrees, ''],
            };
            $results[] = [
                'address' => $text, 'prefix' => $prefix->id, 'host' => $host?->id, 'mac' => (string) $mac, 'ptr' => $ptr,
                'verdict' => $verdict, 'words' => $words, 'answered' => true,
            ];
        }
        foreach ($hosts as $text => $host) {
            if (! array_key_exists($text, $answers) && ($step instanceof AddressRange ? $step->contains($host->address) : true)) {
                $last = $before[bin2hex($host->address->bytes)] ?? null;
                $results[] = [
                    'address' => $text, 'prefix' => $prefix->id, 'host' => $host->id, 'mac' => '', 'ptr' => '',
                    'verdict' => SightingVerdict::Silent,
                    'words' => $last === null ? 'never seen' : 'last seen '.substr($last, 0, 16), 'answered' => false,
                ];
            }
        }

        return $results;
    }

    /**
     * @param  Collection<string, Lease>  $leased
     * @return array{SightingVerdict, string}
     */
    private function unplanned(Collection $leased, string $text, ?MacAddress $mac): array
    {
        $lease = $leased[$text] ?? null;
        if ($lease === null) {
            return [SightingVerdict::Unknown, 'answers and is not planned'];
        }

        return $mac === null || $lease->mac?->equals($mac) !== false
            ? [SightingVerdict::Agrees, 'leased']
            : [SightingVerdict::OtherMac, "leased to $lease->mac"];
    }

    /** The name that the address points back to; blank when there is none, or nobody to ask. */
    private function ptr(?DnsClient $dns, Address $address): string
    {
        if ($dns === null) {
            return '';
        }
        try {
            foreach ($dns->ask(ReverseName::of($address), RecordType::of(RecordType::PTR))->message->answers as $record) {
                if ($record->type()->number === RecordType::PTR) {
                    return rtrim((string) $record->data->text(), '.');
                }
            }
        } catch (Unanswered) {
            // One name that cannot be had is no reason to stop a sweep; preflight said whether the resolver answers.
        }

        return '';
    }
}
