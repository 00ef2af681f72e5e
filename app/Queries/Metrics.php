<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Draft;
use App\Models\DraftState;
use App\Models\Prefix;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Zone;
use Illuminate\Support\Facades\DB;

/**
 * Figures for a monitoring system, as OpenMetrics 1.0 text: few families, each with its unit in its name. Prefixes are those without a
 *     parent
 * and those tagged "metered", so that the number of series is what somebody chose.
 */
final class Metrics
{
    private const PREFIXES = 500;

    /** Upper bounds of the times of requests, in seconds. */
    public const BOUNDS = ['0.05', '0.1', '0.25', '0.5', '1', '2.5', '10'];

    /** @var list<string> */
    private array $lines = [];

    public static function text(): string
    {
        $metrics = new self;
        $metrics->prefixes();
        $metrics->servers();
        $metrics->work();
        $metrics->signing();
        $metrics->itself();
        $metrics->lines[] = '# EOF';

        return implode("\n", $metrics->lines)."\n";
    }

    private function prefixes(): void
    {
        $this->family('harbor_prefix_use_ratio', 'gauge', 'Addresses in use of a subnet, or space carved of a supernet.', 'ratio');
        $tagged = DB::table('prefix_tags')->where('tag', 'metered')->select('prefix_id');
        $rows = Prefix::query()->with('space')->where(fn ($q) => $q->whereNull('parent_id')->orWhereIn('id', $tagged))
            ->orderBy('family')->orderBy('first')->limit(self::PREFIXES)->get();
        foreach ($rows as $row) {
            $this->sample('harbor_prefix_use_ratio', ['prefix' => (string) $row->prefix(), 'space' => $row->space->name], self::use($row));
        }
    }

    private static function use(Prefix $row): float
    {
        if (! $row->isSubnet()) {
            return (float) ($row->getAttribute('carved') ?? 0);
        }
        $bits = $row->prefix()->family()->bits() - $row->length;

        return $bits > 40 ? 0.0 : min(1.0, (int) $row->getAttribute('used') / max(1, (1 << $bits) - ($bits > 1 ? 2 : 0)));
    }

    private function servers(): void
    {
        $names = Server::query()->orderBy('name')->get(['id', 'name', 'kind']);
        $states = DB::table('server_states')->get()->keyBy('server_id');
        $leases = InUse::activeLeases()->groupBy('server_id')->selectRaw('server_id, COUNT(*) AS n')->toBase()->pluck('n', 'server_id');
        $families = [
            'harbor_server_problem' => [
                'Whether the server could not be read when it was last tried.',
                '',
                fn ($s): ?float => $s === null ? null : ($s->problem === null ? 0.0 : 1.0),
            ],
            'harbor_server_differing' => [
                'Objects that differ from the plan.',
                '',
                fn ($s): ?float => $s?->compared_at === null ? null : (float) $s->differing,
            ],
            'harbor_server_compared_age_seconds' => [
                'Time since it was compared.',
                'seconds',
                fn ($s): ?float => self::age($s?->compared_at),
            ],
            'harbor_server_leases_age_seconds' => [
                'Time since its leases were read.',
                'seconds',
                fn ($s): ?float => self::age($s?->leases_read_at),
            ],
        ];
        foreach ($families as $family => [$help, $unit, $value]) {
            $this->family($family, 'gauge', $help, $unit);
            foreach ($names as $server) {
                $is = $value($states[$server->id] ?? null);
                $is === null ?: $this->sample($family, ['server' => $server->name], $is);
            }
        }
        $this->family('harbor_leases_active', 'gauge', 'Leases that run now.');
        foreach ($names->where('kind', ServerKind::Dhcp) as $server) {
            $this->sample('harbor_leases_active', ['server' => $server->name], (float) ($leases[$server->id] ?? 0));
        }
    }

    private function work(): void
    {
        $this->family('harbor_drafts_waiting', 'gauge', 'Drafts that wait for the agreement of others.');
        $this->sample('harbor_drafts_waiting', [], (float) Draft::query()->where('state', DraftState::Submitted)->count());
        $this->family('harbor_records_unshipped', 'gauge', 'Changes of records that no server was brought yet.');
        $this->sample('harbor_records_unshipped', [], (float) DB::table('record_changes')->whereNull('serial')->count());
        $this->family('harbor_queue_jobs', 'gauge', 'Jobs that wait or run.');
        $this->sample('harbor_queue_jobs', [], (float) DB::table('jobs')->count());
        $this->family('harbor_queue_oldest_age_seconds', 'gauge', 'Age of the oldest job.', 'seconds');
        $oldest = DB::table('jobs')->min('created_at');
        $this->sample('harbor_queue_oldest_age_seconds', [], is_numeric($oldest) ? max(0.0, time() - (float) $oldest) : 0.0);
        $nodes = Machines::nodes();
        if ($nodes !== null) {
            $this->family('harbor_database_nodes', 'gauge', 'Nodes of the database that hold all rows.');
            $this->sample('harbor_database_nodes', [], (float) $nodes['size']);
        }
        $this->family('harbor_machine_silent', 'gauge', 'Whether a machine was not heard of for a minute.');
        foreach (Machines::all() as $machine) {
            $this->sample('harbor_machine_silent', ['machine' => $machine['name']], $machine['silent'] === null ? 0.0 : 1.0);
        }
        $this->family('harbor_history_sealed', 'counter', 'Rows of the history that are chained.');
        $this->sample('harbor_history_sealed_total', [], (float) DB::table('history_chain')->max('seq'));
    }

    /** How long the signatures of a zone hold, and how old the keys are that sign it. */
    private function signing(): void
    {
        $now = now()->getTimestamp();
        $zones = Zone::query()->with(['view', 'keys'])->whereNotNull('policy_id')->orderBy('name')->limit(self::PREFIXES)->get();
        $ends = DB::table('signed_records')->whereIn('zone_id', $zones->modelKeys())->whereNotNull('expires')->groupBy('zone_id')
            ->selectRaw('zone_id, MIN(expires) AS first')->pluck('first', 'zone_id');
        $labels = static fn (Zone $zone): array => ['zone' => rtrim($zone->name, '.'), 'view' => $zone->view->name];
        $this->family('harbor_zone_signature_left_seconds', 'gauge', 'Until the first signature of a zone ends.', 'seconds');
        foreach ($zones as $zone) {
            isset($ends[$zone->id])
                ? $this->sample('harbor_zone_signature_left_seconds', $labels($zone), (float) ((int) $ends[$zone->id] - $now))
                : null;
        }
        $this->family('harbor_zone_key_age_seconds', 'gauge', 'Age of a key that stands in a zone.', 'seconds');
        foreach ($zones as $zone) {
            foreach ($zone->keys as $key) {
                $key->removed !== null ?: $this->sample(
                    'harbor_zone_key_age_seconds',
                    $labels($zone) + [
                        'role' => $key->role->value, 'tag' => (string) $key->tag, 'algorithm' => (string) $key->algorithm->value,
                    ],
                    (float) max(0, $now - $key->made),
                );
            }
        }
    }

    private static function age(mixed $at): ?float
    {
        return is_string($at) ? max(0.0, (float) (now()->getTimestamp() - strtotime($at.' UTC'))) : null;
    }

    /** What the application itself did: what it handed out, and how long its pages took. */
    private function itself(): void
    {
        $tallies = DB::table('tallies')->orderBy('machine')->orderBy('label')->get()->groupBy('family');
        $this->family('harbor_transfers', 'counter', 'Transfers that were told to their end, by what was asked.');
        foreach ($tallies['transfers'] ?? [] as $row) {
            $labels = ['machine' => (string) $row->machine, 'asked' => (string) $row->label];
            $this->sample('harbor_transfers_total', $labels, (float) $row->n);
        }
        $requests = [];
        foreach ($tallies['requests'] ?? [] as $row) {
            [$verb, $what] = explode(' ', (string) $row->label, 2) + [1 => ''];
            $requests[(string) $row->machine][$verb][$what] = (float) $row->n;
        }
        $this->family('harbor_request_duration_seconds', 'histogram', 'How long requests took, as the web server saw it.', 'seconds');
        $this->each($requests, function (array $labels, array $of): void {
            foreach (self::BOUNDS as $bound) {
                $this->sample('harbor_request_duration_seconds_bucket', $labels + ['le' => $bound], $of["le $bound"] ?? 0.0);
            }
            $this->sample('harbor_request_duration_seconds_bucket', $labels + ['le' => '+Inf'], $of['count'] ?? 0.0);
            $this->sample('harbor_request_duration_seconds_count', $labels, $of['count'] ?? 0.0);
            $this->sample('harbor_request_duration_seconds_sum', $labels, $of['sum'] ?? 0.0);
        });
        $this->family('harbor_requests_failed', 'counter', 'Requests that were answered by a fault of the application.');
        $this->each($requests, fn (array $labels, array $of) => $this->sample(
            'harbor_requests_failed_total', $labels, $of['failed'] ?? 0.0,
        ));
    }

    /**
     * @param  array<string, array<string, array<string, float>>>  $requests  machine → verb → what → how many
     * @param  \Closure(array<string, string>, array<string, float>): void  $tell
     */
    private function each(array $requests, \Closure $tell): void
    {
        foreach ($requests as $machine => $verbs) {
            foreach ($verbs as $verb => $of) {
                $tell(['machine' => (string) $machine, 'verb' => (string) $verb], $of);
            }
        }
    }

    private function family(string $name, string $type, string $help, string $unit = ''): void
    {
        array_push($this->lines, "# TYPE $name $type", ...($unit === '' ? [] : ["# UNIT $name $unit"]), ...["# HELP $name $help"]);
    }

    /** @param  array<string, string>  $labels */
    private function sample(string $name, array $labels, float $value): void
    {
        $told = [];
        foreach ($labels as $label => $text) {
            $told[] = $label.'="'.strtr($text, ['\\' => '\\\\', '"' => '\"', "\n" => '\n']).'"';
        }
        $this->lines[] = $name.($told === [] ? '' : '{'.implode(',', $told).'}').' '.rtrim(rtrim(sprintf('%.6f', $value), '0'), '.');
    }
}
