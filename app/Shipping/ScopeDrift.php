<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Lease\AddReservation;
use App\Acts\Lease\ChangeScope;
use App\Acts\Lease\RemoveReservations;
use App\Acts\Lease\SetOption;
use App\Domain\Lease\ScopeRanges;
use App\Links\StandinDhcpLink;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\Server;
use App\Queries\OptionLayers;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\StackedValue;
use HarborPost\Core\Dns\Ttl;

/** What a server runs of a scope against what it is meant to run, difference by difference, and the acts that take one into the plan. */
final readonly class ScopeDrift implements Takable
{
    /** @var array<string, DriftLine> key → one difference, in words */
    private array $lines;

    /** @param  array<string, mixed>  $runs  the scope as the server runs it */
    public function __construct(private Scope $scope, private Server $server, private array $runs)
    {
        $this->lines = [...$this->plain(), ...$this->lists(), ...$this->options(), ...$this->reservations()];
    }

    public function lines(): array
    {
        return $this->lines;
    }

    public function acts(array $keys): array
    {
        $keys = array_values(array_filter($keys, fn (string $k): bool => ($this->lines[$k] ?? null)?->takes() === true));
        $acts = [];
        if (array_intersect($keys, ['name', 'time', 'ranges', 'exclusions']) !== []) {
            $acts[] = new ChangeScope(
                $this->scope->id,
                name: in_array('name', $keys, true) ? (string) $this->runs['name'] : null,
                ranges: in_array('ranges', $keys, true) ? $this->rangesTaken() : null,
                exclusions: in_array('exclusions', $keys, true) ? $this->texts('exclusions') : null,
                leaseTime: in_array('time', $keys, true) ? (string) $this->runs['lease_time'] : null,
            );
        }
        $gone = $new = [];
        foreach ($keys as $key) {
            [$kind, $which] = explode(':', $key, 2) + ['', ''];
            if ($kind === 'option') {
                $acts[] = $this->option((int) $which);
            } elseif ($kind === 'client') {
                $held = $this->held()[$which] ?? null;
                $there = $this->there()[$which] ?? null;
                $held === null ?: $gone[] = $held->id;
                $there === null ?: $new[] = new AddReservation($this->scope->id, $there['address'], $which, $there['name']);
            }
        }

        return [...$acts, ...($gone === [] ? [] : [new RemoveReservations($gone, $this->scope->id)]), ...$new];
    }

    public function undone(): array
    {
        return [$this->scope->id];
    }

    /** @return array<string, DriftLine> */
    private function plain(): array
    {
        $form = StandinDhcpLink::form($this->scope, $this->server);
        $time = static fn (mixed $seconds): string => (int) $seconds > 0x7FFFFFFF ? 'without an end' : Ttl::of((int) $seconds)->spoken();
        $lines = [
            'subnet' => new DriftLine('subnet', (string) $this->runs['subnet'], $form['subnet'], 'resize the subnet in the plan'),
            'name' => new DriftLine('name', (string) $this->runs['name'], $form['name']),
            'time' => new DriftLine('lease time', $time($this->runs['lease_time']), $time($form['lease_time'])),
        ];

        return array_filter($lines, static fn (DriftLine $l): bool => $l->there !== $l->here);
    }

    /** @return array<string, DriftLine> */
    private function lists(): array
    {
        $form = StandinDhcpLink::form($this->scope, $this->server);
        $lines = [];
        foreach (['ranges', 'exclusions'] as $list) {
            $there = $this->texts($list);
            if (array_diff($there, $form[$list]) !== [] || array_diff($form[$list], $there) !== []) {
                $lines[$list] = new DriftLine($list, implode(', ', $there), implode(', ', $form[$list]));
            }
        }

        return $lines;
    }

    /** @return array<string, DriftLine> */
    private function options(): array
    {
        $meant = StandinDhcpLink::payloads($this->scope, $this->server);
        $there = $this->payloads();
        $lines = [];
        foreach (array_keys($meant + $there) as $code) {
            if (($meant[$code] ?? null) !== ($there[$code] ?? null)) {
                $word = static fn (?string $payload): string => $payload === null ? '' : OptionTable::meaning($code, $payload);
                $lines["option:$code"] = new DriftLine(
                    "option $code, ".OptionTable::definition($code)->name,
                    $word($there[$code] ?? null),
                    $word($meant[$code] ?? null),
                );
            }
        }

        return $lines;
    }

    /** @return array<string, DriftLine> */
    private function reservations(): array
    {
        $held = array_map(static fn (Reservation $r): array => ['address' => (string) $r->address, 'name' => $r->name], $this->held());
        $there = $this->there();
        $lines = [];
        foreach (array_keys($held + $there) as $mac) {
            if (($held[$mac] ?? null) !== ($there[$mac] ?? null)) {
                $word = static fn (?array $r): string => $r === null ? '' : trim("$r[address] $r[name]");
                $lines["client:$mac"] = new DriftLine("reservation for $mac", $word($there[$mac] ?? null), $word($held[$mac] ?? null));
            }
        }

        return $lines;
    }

    /** An option in the words it would be typed in, or as bytes where those words would not give the same bytes. */
    private function option(int $code): SetOption
    {
        $payload = $this->payloads()[$code] ?? null;
        if ($payload === null) {
            $outer = array_filter(
                app(OptionLayers::class)->of($this->scope, $this->server)->hidden($code),
                static fn (StackedValue $v): bool => $v->values !== [],
            );

            return new SetOption($this->scope->id, $code, empty: $outer !== [] || ! $this->isOwn($code));
        }
        try {
            $typed = implode("\n", OptionTable::decode($code, $payload));
            $same = OptionTable::encode($code, OptionTable::split($code, $typed)) === $payload;
        } catch (BadOption) {
            $same = false;
            $typed = '';
        }

        return new SetOption($this->scope->id, $code, $same ? $typed : '0x'.bin2hex($payload));
    }

    private function isOwn(int $code): bool
    {
        return $this->scope->optionValues->contains('code', $code);
    }

    /** @return list<string> the ranges of the scope, with those of this server as it runs them */
    private function rangesTaken(): array
    {
        $shared = $this->scope->placements->count() > 1;
        $others = array_filter(
            ScopeRanges::texts($this->scope),
            fn (string $t): bool => str_contains($t, '@') && ! str_ends_with($t, "@{$this->server->name}"),
        );

        return [
            ...array_values($others),
            ...array_map(fn (string $t): string => $shared ? "$t@{$this->server->name}" : $t, $this->texts('ranges')),
        ];
    }

    /** @return list<string> */
    private function texts(string $list): array
    {
        return array_values(array_filter((array) ($this->runs[$list] ?? []), is_string(...)));
    }

    /** @return array<int, string> code → payload, as the server sends it */
    private function payloads(): array
    {
        $payloads = [];
        foreach ((array) ($this->runs['options'] ?? []) as $code => $hex) {
            is_string($hex) && ctype_xdigit($hex) && strlen($hex) % 2 === 0 ? $payloads[(int) $code] = (string) hex2bin($hex) : null;
        }

        return $payloads;
    }

    /** @return array<string, Reservation> MAC → reservation of the plan */
    private function held(): array
    {
        return $this->scope->reservations->keyBy(fn (Reservation $r): string => $r->client())->all();
    }

    /** @return array<string, array{address: string, name: string}> MAC → reservation on the server */
    private function there(): array
    {
        $there = [];
        foreach ((array) ($this->runs['reservations'] ?? []) as $one) {
            is_array($one)
                ? $there[($one['mac'] ?? '') !== '' ? (string) $one['mac'] : '0x'.($one['client'] ?? '')] = [
                    'address' => (string) ($one['address'] ?? ''),
                    'name' => (string) ($one['name'] ?? ''),
                ]
                : null;
        }

        return $there;
    }
}
