<?php

declare(strict_types=1);

namespace App\Shipping;

use App\Acts\Lease\AddReservation;
use App\Acts\Lease\ChangeScope;
use App\Acts\Lease\RemoveReservations;
use App\Acts\Lease\SetOption;
use App\Domain\Lease\Delegations;
use App\Domain\Lease\ScopeRanges;
use App\Links\ScopeForm;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\Server;
use App\Queries\OptionLayers;
use App\Queries\OwnOptions;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\StackedValue;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Family;

/** What a server runs of a scope against what it is meant to run, difference by difference, and the acts that take one into the plan. */
final readonly class ScopeDrift implements Takable
{
    private Family $family;

    /** @var array<string, DriftLine> key → one difference, in words */
    private array $lines;

    /** @param  array<string, mixed>  $runs  the scope as the server runs it */
    public function __construct(private Scope $scope, private Server $server, private array $runs)
    {
        $this->family = $scope->family();
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
        if (array_intersect($keys, ['name', 'time', 'preferred', 'rapid', 'ranges', 'exclusions', 'delegations']) !== []) {
            $acts[] = new ChangeScope(
                $this->scope->id,
                name: in_array('name', $keys, true) ? (string) $this->runs['name'] : null,
                ranges: in_array('ranges', $keys, true) ? $this->taken('ranges', ScopeRanges::texts($this->scope)) : null,
                exclusions: in_array('exclusions', $keys, true) ? $this->texts('exclusions') : null,
                leaseTime: in_array('time', $keys, true) ? (string) $this->runs['lease_time'] : null,
                preferred: in_array('preferred', $keys, true) ? (string) $this->runs['preferred'] : null,
                delegations: in_array('delegations', $keys, true) ? $this->taken('delegations', Delegations::texts($this->scope)) : null,
                rapid: in_array('rapid', $keys, true) ? ($this->runs['rapid'] === true ? 'yes' : 'no') : null,
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
        $form = ScopeForm::of($this->scope, $this->server);
        $time = static fn (mixed $seconds): string => (int) $seconds > 0x7FFFFFFF ? 'without an end' : Ttl::of((int) $seconds)->spoken();
        $lines = [
            'subnet' => new DriftLine('subnet', (string) $this->runs['subnet'], $form['subnet'], 'resize the subnet in the plan'),
            'name' => new DriftLine('name', (string) $this->runs['name'], $form['name']),
            'time' => new DriftLine('lease time', $time($this->runs['lease_time']), $time($form['lease_time'])),
        ];

        if ($this->family === Family::V6) {
            $lines['preferred'] = new DriftLine('preferred life', $time($this->runs['preferred'] ?? 0), $time($form['preferred']));
            $word = static fn (mixed $on): string => $on === true ? 'on' : 'off';
            $lines['rapid'] = new DriftLine('rapid commit', $word($this->runs['rapid'] ?? false), $word($form['rapid']));
        }

        return array_filter($lines, static fn (DriftLine $l): bool => $l->there !== $l->here);
    }

    /** @return array<string, DriftLine> */
    private function lists(): array
    {
        $form = ScopeForm::of($this->scope, $this->server);
        $lines = [];
        foreach (['ranges', 'exclusions', ...$this->family === Family::V6 ? ['delegations'] : []] as $list) {
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
        $meant = ScopeForm::payloads($this->scope, $this->server);
        $there = $this->payloads();
        $lines = [];
        foreach (array_keys($meant + $there) as $code) {
            if (($meant[$code] ?? null) !== ($there[$code] ?? null)) {
                $word = fn (?string $payload): string => $payload === null
                    ? ''
                    : OwnOptions::now()->meaning($code, $payload, $this->family);
                $lines["option:$code"] = new DriftLine(
                    "option $code, ".OwnOptions::now()->definition($code, $this->family)->name,
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
        $held = array_map(static fn (Reservation $r): array => ['address' => $r->given(), 'name' => $r->name], $this->held());
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
        if (OwnOptions::now()->own($code, $this->family) !== null) {
            return new SetOption($this->scope->id, $code, OptionTable::RAW.bin2hex($payload));
        }
        try {
            $typed = implode("\n", OptionTable::decode($code, $payload, $this->family));
            $same = OptionTable::encode($code, OptionTable::split($code, $typed, $this->family), $this->family) === $payload;
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

    /**
     * @param  list<string>  $present  as they are written
     * @return list<string> a list of the scope, with the part of this server as it runs it
     */
    private function taken(string $list, array $present): array
    {
        $shared = $this->scope->placements->count() > 1;
        $others = array_filter(
            $present,
            fn (string $t): bool => str_contains($t, '@') && ! str_ends_with($t, "@{$this->server->name}"),
        );

        return [
            ...array_values($others),
            ...array_map(fn (string $t): string => $shared ? "$t@{$this->server->name}" : $t, $this->texts($list)),
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
            if (! is_array($one)) {
                continue;
            }
            $client = match (true) {
                $this->family === Family::V6 => ($one['duid'] ?? '').(isset($one['iaid']) ? " iaid {$one['iaid']}" : ''),
                ($one['mac'] ?? '') !== '' => (string) $one['mac'],
                default => '0x'.($one['client'] ?? ''),
            };
            $there[$client] = ['address' => (string) ($one['address'] ?? $one['net'] ?? ''), 'name' => (string) ($one['name'] ?? '')];
        }

        return $there;
    }
}
