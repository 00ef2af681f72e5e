<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Watch\KeepThreshold;
use App\Acts\Watch\MeasureServers;
use App\Database\Bulk;
use App\Models\Server;
use App\Models\ServerKind;
use Illuminate\Support\Facades\DB;

/** What the servers measured in the last month, with a Tuesday on which forwarding was broken for some hours; one server is left out. */
final class Figures
{
    /** figure, labels, kind, at night, by day */
    private const DNS = [
        ['dns_queries', 'type=A', 'counter', 4.0, 21.0], ['dns_queries', 'type=AAAA', 'counter', 3.1, 16.0],
        ['dns_queries', 'type=PTR', 'counter', 1.2, 2.6], ['dns_queries', 'type=SOA', 'counter', 0.2, 0.3],
        ['dns_answers', 'code=NoError', 'counter', 7.2, 34.0], ['dns_answers', 'code=NxDomain', 'counter', 1.2, 5.4],
        ['dns_answers', 'code=ServFail', 'counter', 0.02, 0.06], ['dns_answer_seconds', '', 'summary', 0.0011, 0.0019],
        ['dns_transfers', '', 'counter', 0.01, 0.02], ['dns_zones', '', 'gauge', 38.0, 38.0],
        ['dns_cache_answers', '', 'gauge', 900.0, 2600.0],
    ];

    private const DHCP = [
        ['dhcp_messages', 'message=discover', 'counter', 0.05, 0.6], ['dhcp_messages', 'message=request', 'counter', 0.4, 1.9],
        ['dhcp_replies', 'message=offer', 'counter', 0.05, 0.55], ['dhcp_replies', 'message=ack', 'counter', 0.4, 1.85],
        ['dhcp_replies', 'message=nak', 'counter', 0.0, 0.02], ['dhcp_leases', '', 'gauge', 2900.0, 3600.0],
        ['dhcp_scopes', '', 'gauge', 52.0, 52.0],
    ];

    private const HELP = [
        'dns_queries' => 'Questions by type.', 'dns_answers' => 'Answers by response code.',
        'dns_transfers' => 'Zone transfers that were asked for.',
        'dns_answer_seconds' => 'From the question to its answer.', 'dns_zones' => 'Zones that are served.',
        'dns_cache_answers' => 'Answers kept for their time to live.', 'dhcp_messages' => 'Messages of clients by kind.',
        'dhcp_replies' => 'Replies by kind; a message without one was not for this server.', 'dhcp_leases' => 'Leases that are known.',
        'dhcp_scopes' => 'Scopes that are served.',
    ];

    public function __construct(private readonly Kittiwake $k)
    {
    }

    public function load(): void
    {
        mt_srand(1911);
        $now = now()->utc()->startOfMinute();
        foreach (Server::query()->whereNotNull('metrics')->orderBy('name')->get() as $i => $server) {
            $share = [1.0, 0.7, 0.45][$i % 3];
            foreach ($server->kind === ServerKind::Dhcp ? self::DHCP : self::DNS as [$family, $labels, $type, $night, $day]) {
                $id = DB::table('series')->insertGetId([
                    'server_id' => $server->id, 'family' => $family, 'labels' => $labels, 'type' => $type,
                    'unit' => $family === 'dns_answer_seconds' ? 'seconds' : '', 'help' => self::HELP[$family], 'at' => $now,
                ]);
                $rows = [];
                foreach ([[60, 31 * 24, 0], [5, 312, 0], [5, 312, 7 * 1440], [1, 240, 0]] as [$step, $count, $back]) {
                    for ($n = $count; $n >= 1; $n--) {
                        $at = $now->getTimestamp() - 60 * $back;
                        $at = intdiv($at, 60 * $step) * 60 * $step - $n * 60 * $step;
                        $value = self::value($server->name, $family, $labels, $at, $night, $day) * ($type === 'counter' ? $share : 1);
                        $rows[] = [
                            'series_id' => $id, 'step' => $step, 'at' => gmdate('Y-m-d H:i:s', $at), 'low' => $value * 0.8,
                            'mean' => $value, 'high' => $value * 1.3,
                        ];
                    }
                }
                Bulk::insert('samples', $rows);
            }
            DB::table('server_states')->updateOrInsert(
                ['server_id' => $server->id],
                ['figures_since' => $now->subDays(31), 'figures_at' => $now],
            );
        }
        $this->k->do(
            new KeepThreshold('dns_answers', '0.5', 'above', 'code=ServFail', 5, $this->k->id('threshold failures')),
            new KeepThreshold('dns_answer_seconds', '0.05', 'above', '', 10, $this->k->id('threshold slow')),
            new MeasureServers([$this->k->id('server tide3')], 'no', 'is replaced in spring'),
        );
    }

    /** Much by day and little by night, some noise; on a Tuesday from ten to two the resolver's forwarders did not answer. */
    private static function value(string $server, string $family, string $labels, int $at, float $night, float $day): float
    {
        $hour = (int) gmdate('G', $at) + (int) gmdate('i', $at) / 60;
        $sun = max(0.0, sin(M_PI * ($hour - 5) / 16));
        $value = ($night + ($day - $night) * $sun) * ($night === $day ? 1 : mt_rand(88, 112) / 100);
        $bad = $server === 'lamp3' && gmdate('N', $at) === '2' && $hour >= 10 && $hour < 14;

        return $value * match (true) {
            ! $bad => 1,
            $labels === 'code=ServFail' => 60,
            $family === 'dns_answer_seconds' => 400,
            default => 1,
        };
    }
}
