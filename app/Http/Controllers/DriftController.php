<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Engine\Acts;
use App\Acts\Engine\Note;
use App\Acts\Engine\Outcome;
use App\Acts\Name\TakeRunning;
use App\Links\LeaseLink;
use App\Links\Links;
use App\Links\Names\NameLink;
use App\Links\Names\StandinDnsLink;
use App\Links\SwitchLink;
use App\Links\Unanswered;
use App\Models\Power;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Zone;
use App\Shipping\DriftWatch;
use App\Shipping\ResolverDrift;
use App\Shipping\ScopeDrift;
use App\Shipping\SwitchDrift;
use App\Shipping\Takable;
use HarborPost\Core\Dns\Serial;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;

/** What somebody changed on a server: to take into the plan, difference by difference, or to undo there. */
final class DriftController extends Controller
{
    public function __construct(private readonly Acts $acts, private readonly DriftWatch $watch)
    {
    }

    public function zone(string $zone): View
    {
        $row = $this->placedZone($zone);
        $primary = $row->primaryPlacement() ?? abort(404);
        $problem = $act = null;
        try {
            $act = self::running($row, $primary->server);
        } catch (Unanswered $e) {
            $problem = $e->getMessage();
        }

        return view(
            'name.drift',
            ['zone' => $row, 'primary' => $primary->server, 'problem' => $problem, 'act' => $act, 'may' => $this->works(Power::Ship)],
        );
    }

    /** Reads the primary again and takes what was chosen, as far as it is still so. */
    public function takeZone(Request $request, string $zone): RedirectResponse
    {
        $row = $this->placedZone($zone);
        abort_unless($this->works(Power::Ship), 403);
        $primary = $row->primaryPlacement() ?? abort(404);
        try {
            $act = self::running($row, $primary->server);
        } catch (Unanswered $e) {
            return back()->with('bad', $e->getMessage());
        }
        $total = count($act->come) + count($act->gone);
        if (! $request->boolean('all')) {
            $chosen = array_flip(self::chosen($request));
            $act = $act->only(fn (string $sign, string $line): bool => isset($chosen[TakeRunning::lineKey($sign, $line)]));
        }
        $taken = count($act->come) + count($act->gone);
        if ($taken === 0) {
            return redirect(at('name.zone.drift', $row->id))->with(
                'bad',
                $total === 0 ? 'Nothing differs any more.' : 'Nothing was chosen, or what was chosen is not so any more.',
            );
        }
        $outcome = $this->acts->commit($this->person(), [$act], reason: $request->string('reason')->toString() ?: null);
        if ($outcome->blocked()) {
            return redirect(at('name.zone.drift', $row->id))->with('bad', self::words($outcome));
        }
        $this->watch->look($primary->server);

        return redirect($taken < $total ? at('name.zone.drift', $row->id) : at('name.zone.service', $row->id))->with(
            'done',
            $taken === $total
                ? "$total differences are taken into the plan."
                : "$taken of $total differences are taken into the plan; the others are here.",
        );
    }

    public function scope(string $scope, string $server): View
    {
        [$row, $on] = $this->placed($scope, $server);
        $problem = $drift = null;
        try {
            $drift = self::scopeDrift($row, $on);
        } catch (Unanswered $e) {
            $problem = $e->getMessage();
        }

        return view(
            'lease.drift',
            ['scope' => $row, 'server' => $on, 'problem' => $problem, 'drift' => $drift, 'may' => $this->works(Power::Ship)],
        );
    }

    /** Reads the server again and takes what was chosen, as far as it is still so. */
    public function takeScope(Request $request, string $scope, string $server): RedirectResponse
    {
        abort_unless($this->works(Power::Ship), 403);
        [$row, $on] = $this->placed($scope, $server);
        $back = redirect(at('lease.scope.drift', $row->id, $on->id));
        try {
            $drift = self::scopeDrift($row, $on);
        } catch (Unanswered $e) {
            return $back->with('bad', $e->getMessage());
        }

        return $this->take($request, $drift, $on, $back);
    }

    /** How a server resolves, or what the switches say of VLANs. */
    public function server(string $server): View
    {
        $row = $this->ofServer($server);
        $problem = $drift = null;
        try {
            $drift = self::serverDrift($row);
        } catch (Unanswered $e) {
            $problem = $e->getMessage();
        }

        return view('ship.drift', ['server' => $row, 'problem' => $problem, 'drift' => $drift, 'may' => $this->works(Power::Ship)]);
    }

    public function takeServer(Request $request, string $server): RedirectResponse
    {
        abort_unless($this->works(Power::Ship), 403);
        $row = $this->ofServer($server);
        $back = redirect(at('ship.server.drift', $row->id));
        try {
            return $this->take($request, self::serverDrift($row), $row, $back);
        } catch (Unanswered $e) {
            return $back->with('bad', $e->getMessage());
        }
    }

    private function take(Request $request, ?Takable $drift, Server $server, RedirectResponse $back): RedirectResponse
    {
        $acts = $drift?->acts(self::chosen($request)) ?? [];
        if ($acts === []) {
            return $back->with('bad', 'Nothing was chosen, or what was chosen is not so any more.');
        }
        $outcome = $this->acts->commit($this->person(), $acts, reason: $request->string('reason')->toString() ?: null);
        if ($outcome->blocked()) {
            return $back->with('bad', self::words($outcome));
        }
        $this->watch->look($server);

        return $back->with('done', 'What was chosen is in the plan now.');
    }

    /** What stands in the way, or the warnings that want a reason. */
    private static function words(Outcome $outcome): string
    {
        $block = $outcome->block();
        $warned = array_map(
            static fn (Note $n): string => $n->message,
            array_filter($outcome->notes(), static fn (Note $n): bool => $n->warns()),
        );

        return $outcome->wantsReason
            ? implode('. ', array_slice($warned, 0, 5)).'. Say why you take it all the same: the reason is kept in the history.'
            : ($block->message ?? (string) $outcome->trouble).($block?->why ? ". $block->why" : '');
    }

    private static function running(Zone $zone, Server $primary): TakeRunning
    {
        $link = Links::to($primary);
        if (! $link instanceof NameLink) {
            abort(404);
        }
        $serial = $link->reader()->serial($zone->origin(), $zone->clientInView()) ?? Serial::of($zone->serial);
        [$there, $here] = $link->drift($zone);

        return new TakeRunning($zone->id, $primary->id, $serial->value, $here, $there, $link->renewals($zone));
    }

    private static function scopeDrift(Scope $scope, Server $server): ?ScopeDrift
    {
        $link = Links::to($server);
        $runs = $link instanceof LeaseLink ? $link->running($scope->id) : abort(404);

        return $runs === null ? null : new ScopeDrift($scope, $server, $runs);
    }

    private static function serverDrift(Server $server): Takable
    {
        $link = Links::to($server);

        return match (true) {
            $link instanceof StandinDnsLink => new ResolverDrift($server, $link->resolves()),
            $link instanceof SwitchLink => new SwitchDrift($link->vlans()),
            default => abort(404),
        };
    }

    private function ofServer(string $server): Server
    {
        $this->wholeOnly();

        return Server::query()->whereIn('kind', [...ServerKind::naming(), ServerKind::Network])->whereNotNull('control')
            ->findOrFail($server);
    }

    private function placedZone(string $zone): Zone
    {
        $this->wholeOnly();

        return Zone::query()->with(['view', 'placements.server'])->findOrFail($zone);
    }

    /** @return array{Scope, Server} */
    private function placed(string $scope, string $server): array
    {
        $this->wholeOnly();
        $row = $this->reach()->scopes()
            ->with(['prefix', 'ranges', 'exclusions', 'reservations.optionValues', 'optionValues', 'placements.server'])
            ->findOrFail($scope);

        return [$row, $row->placements->firstWhere('server_id', $server)->server ?? abort(404)];
    }

    /** @return list<string> */
    private static function chosen(Request $request): array
    {
        return array_values(array_filter((array) $request->input('take', []), is_string(...)));
    }
}
