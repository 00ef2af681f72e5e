<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Domain\Name\Signing;
use App\Domain\Ship\HandingOut;
use App\Links\Names\Resolving;
use App\Links\ScopeForm;
use App\Links\StandinPairs;
use App\Links\SwitchPorts;
use App\Models\Pair;
use App\Models\Person;
use App\Models\PortProfile;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Models\Vlan;
use App\Models\Zone;
use App\Models\ZoneServer;
use App\Queries\PortChecks;
use App\Queries\SwitchIntent;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;

/** Notes that a zone or scope was shipped to a server, or that packets proved it. */
final readonly class MarkPlacement extends Act
{
    public function __construct(
        public string $server,
        public string $kind,
        public string $object,
        /** shipped, verified, or unknown: the server is then sent the whole */
        public string $state,
    ) {
    }

    public function title(): string
    {
        return ucfirst($this->state);
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function apply(Ledger $ledger): void
    {
        if (in_array($this->kind, ['vlan', 'resolving', SwitchPorts::KIND], true)) {
            $this->noteBrought($ledger);

            return;
        }
        if ($this->kind === 'pair') {
            $this->notePair($ledger);

            return;
        }
        if ($this->kind === 'zone') {
            $row = ZoneServer::query()->where('server_id', $this->server)->where('zone_id', $this->object)->first();
            $values = ['shipped_serial' => Zone::query()->whereKey($this->object)->value('serial')];
        } else {
            $row = ScopeServer::query()->where('server_id', $this->server)->where('scope_id', $this->object)->first();
            $server = Server::query()->find($this->server);
            $values = $row === null || $server === null ? [] : ['shipped_digest' => ScopeForm::digest($row->scope, $server)];
        }
        if ($this->kind === 'zone' && $this->state === 'shipped') {
            $this->handOut($ledger);
        }
        // A machine's progress, not a decision: written without an entry in the history of people's acts.
        $row === null ?: $row->newQuery()->whereKey($row->id)->update(match ($this->state) {
            'verified' => ['verified_at' => $ledger->at],
            'shipped' => ['shipped_at' => $ledger->at, 'verified_at' => null] + $values,
            default => [array_key_first($values) ?? 'shipped_at' => null],
        });
        $zone = $this->kind === 'zone' && $this->state === 'verified' ? Zone::query()->find($this->object) : null;
        $zone === null ?: Signing::settle($zone, CarbonImmutable::instance($ledger->at));
    }

    private function handOut(Ledger $ledger): void
    {
        $server = Server::query()->find($this->server);
        $row = ZoneServer::query()->where('server_id', $this->server)->where('zone_id', $this->object)->first();
        if ($server !== null) {
            $row === null ? HandingOut::take($server, $this->object) : HandingOut::ship($server, $row->zone, $ledger->at);
        }
    }

    private function notePair(Ledger $ledger): void
    {
        $key = ['pair_id' => $this->object, 'server_id' => $this->server];
        $pair = Pair::query()->with(['first', 'second'])->find($this->object);
        $server = Server::query()->find($this->server);
        if ($pair === null || $server === null) {
            DB::table('pair_servers')->where($key)->delete();

            return;
        }
        $at = $ledger->at->format('Y-m-d H:i:s');
        DB::table('pair_servers')->updateOrInsert($key, match ($this->state) {
            'verified' => ['verified_at' => $at],
            'shipped' => ['shipped_at' => $at, 'verified_at' => null, 'shipped_digest' => StandinPairs::digest($pair, $server)],
            default => ['shipped_digest' => null],
        });
    }

    /** What is proved there is kept as it is meant now, so that another change is told from one that somebody made on the server. */
    private function noteBrought(Ledger $ledger): void
    {
        if ($this->state !== 'verified') {
            return;
        }
        $key = ['server_id' => $this->server, 'kind' => $this->kind, 'object_id' => $this->object];
        $server = Server::query()->findOrFail($this->server);
        $profile = $this->kind === SwitchPorts::KIND
            ? PortProfile::query()->with(['native', 'voice', 'ports'])->find($this->object)
            : null;
        $digest = match ($this->kind) {
            'resolving' => Resolving::digest($server),
            SwitchPorts::KIND => $profile === null ? null : PortChecks::digest($profile),
            default => (SwitchIntent::of(Vlan::query()->with('domain')->whereKey($this->object)->get())[$this->object] ?? null)?->digest(),
        };
        if ($digest === null) {
            DB::table('brought')->where($key)->delete();
        } else {
            DB::table('brought')->upsert(
                $key + ['digest' => $digest, 'at' => $ledger->at->format('Y-m-d H:i:s')],
                array_keys($key),
                ['digest', 'at'],
            );
        }
    }
}
