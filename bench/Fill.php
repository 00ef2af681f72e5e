<?php

declare(strict_types=1);

namespace App\Bench;

use App\Acts\Directory\MakePerson;
use App\Acts\Directory\MakeServer;
use App\Acts\Directory\MakeSpace;
use App\Acts\Directory\MakeView;
use App\Acts\Engine\Acts;
use App\Acts\Name\MakeZone;
use App\Acts\Plan\CarvePrefix;
use App\Database\Words;
use App\Models\Record;
use App\Models\Space;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\A;
use HarborPost\Core\Net\Address;
use Illuminate\Support\Facades\DB;

/**
 * The size of the budgets: 100,000 prefixes, 1,000,000 addresses, 1,000,000 records. Rows go straight into the tables, since
 * what is measured is reading them; the tree and its open blocks are as Actions would leave them.
 */
final readonly class Fill
{
    /** @param  \Closure(string): void  $say */
    public function __construct(private \Closure $say)
    {
    }

    public function load(): void
    {
        if (Space::query()->where('name', 'Bench')->exists()) {
            ($this->say)('already filled');

            return;
        }
        $acts = app(Acts::class);
        $space = MakeSpace::fromInput(['name' => 'Bench']);
        $server = MakeServer::fromInput(['name' => 'bench', 'kind' => 'dns', 'endpoint' => '127.0.0.1:9']);
        $view = MakeView::fromInput(['name' => 'bench', 'clients' => ['0.0.0.0/0']]);
        $zone = MakeZone::fromInput([
            'name' => 'bench.example', 'view' => $view->id, 'servers' => [$server->id], 'nameServers' => 'ns1.other.',
        ]);
        $top = CarvePrefix::fromInput(['space' => $space->id, 'prefix' => '10.0.0.0/7', 'kind' => 'supernet', 'name' => 'Bench']);
        $person = MakePerson::fromInput([
            'signIn' => 'bench', 'name' => 'Bench', 'password' => 'bench-password', 'roles' => ['planner', 'operator', 'steward'],
        ]);
        foreach ([$space, $server, $view, $zone, $top, $person] as $act) {
            $acts->commit(null, [$act]);
        }
        $this->prefixes($space->id, $top->id);
        $this->addresses($space->id);
        $this->records($zone->id);
        DB::table('words')->delete();
        foreach (array_keys(Words::NOUNS) as $noun) {
            Words::fill($noun);
        }
        DB::statement('ANALYZE TABLE prefixes, addresses, records, open_blocks');
    }

    private function prefixes(string $space, string $top): void
    {
        ($this->say)('100,000 prefixes');
        $rows = [];
        for ($i = 0; $i < 100000; $i++) {
            $rows[] = [
                'id' => sprintf('01BENCHP%018d', $i), 'space_id' => $space, 'family' => 4, 'first' => pack('N', 0x0A000000 + ($i << 8)),
                'length' => 24, 'groups' => 0, 'parent_id' => $top, 'kind' => 'subnet', 'stage' => 'live', 'name' => "Link $i",
                'used' => $i < 3000 ? 250 : 3,
            ];
        }
        $this->insert('prefixes', $rows);
        DB::table('prefixes')->where('id', $top)->update(['children' => 100000, 'carved' => 100000 / 131072]);
        DB::table('open_blocks')->where('parent_id', $top)->delete();
        $used = 0x0A000000 + (100000 << 8);
        $blocks = \HarborPost\Core\Net\AddressRange::of(Address::fromBytes(pack('N', $used)), Address::parse('11.255.255.255'))->prefixes();
        $this->insert(
            'open_blocks',
            array_map(fn ($p): array => ['parent_id' => $top, 'length' => $p->length, 'first' => $p->first->bytes], $blocks),
        );
    }

    private function addresses(string $space): void
    {
        ($this->say)('1,000,000 addresses');
        $rows = [];
        $id = 0;
        for ($link = 0; $link < 100000; $link++) {
            for ($host = 1; $host <= ($link < 3000 ? 250 : 3) && $id < 1000000; $host++) {
                $rows[] = [
                    'id' => sprintf('01BENCHA%018d', $id), 'space_id' => $space, 'family' => 4,
                    'address' => pack('N', 0x0A000000 + ($link << 8) + $host), 'prefix_id' => sprintf('01BENCHP%018d', $link),
                    'name' => "host$id.bench.example", 'mac' => substr(pack('J', 0x020000000000 + $id), 2),
                ];
                $id++;
            }
            if (count($rows) >= 20000) {
                $this->insert('addresses', $rows);
                $rows = [];
            }
        }
        $this->insert('addresses', $rows);
    }

    private function records(string $zone): void
    {
        ($this->say)('1,000,000 records');
        for ($i = 0; $i < 1000000; $i += 20000) {
            $rows = [];
            for ($j = $i; $j < $i + 20000; $j++) {
                $rows[] = ['id' => sprintf('01BENCHR%018d', $j), 'zone_id' => $zone] + Record::columns(
                    Name::parse("host$j.bench.example."),
                    null,
                    A::of(Address::fromBytes(pack('N', 0x0A000000 + $j))),
                );
            }
            $this->insert('records', $rows);
        }
    }

    /** @param  list<array<string, mixed>>  $rows */
    private function insert(string $table, array $rows): void
    {
        foreach (array_chunk($rows, 2000) as $chunk) {
            DB::table($table)->insert($chunk);
        }
    }
}
