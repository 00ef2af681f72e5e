<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\MakeServer;
use App\Acts\Name\AddRecord;
use App\Acts\Name\MakeKey;
use App\Acts\Name\MakeZone;
use App\Links\ControlChannel;
use App\Models\Server;
use App\Models\Speaks;
use App\Models\TransferKey;

/** A partner's name server, reached by the standards alone: one zone that it has and one that is not made there yet. */
final class Partner
{
    private const MOORINGS = 'moorings.kittiwake.example';

    public function __construct(private readonly Kittiwake $k)
    {
    }

    public function plan(): void
    {
        $own = $this->own();
        $this->k->do(
            new MakeKey('reef.kittiwake.example', $this->k->id('key reef'), '', 'what is brought to reef1', 'hmac-sha512'),
            new MakeServer(
                name: 'reef1', kind: 'dns', endpoint: '127.0.0.1:'.($own['port'] ?? 9), id: $this->k->id('server reef1'),
                address: '203.0.113.53', speaks: Speaks::Standard->value, key: $this->k->id('key reef'),
            ),
        );
        foreach ([self::MOORINGS, 'pilots.kittiwake.example'] as $name) {
            $this->k->do(new MakeZone(
                name: $name, view: $this->k->id('view outside'), id: $this->k->id("zone $name"), servers: [$this->k->id('server reef1')],
                mailbox: 'hostmaster@kittiwake.example',
            ));
        }
        $zone = $this->k->id('zone '.self::MOORINGS);
        $this->k->do(
            new AddRecord($zone, 'TXT', '"berths for visiting yachts"', '', '@'),
            new AddRecord($zone, 'A', '203.0.113.80', '', 'berths'),
            new AddRecord($zone, 'CNAME', 'berths', '', 'www'),
        );
    }

    /** What the partner did: the zone stands there, and the key may transfer and update it. */
    public function there(): void
    {
        $own = $this->own();
        if ($own === null) {
            return;
        }
        $server = new Server(['name' => 'reef1', 'control' => "127.0.0.1:{$own['control']}", 'token' => $own['token']]);
        $channel = new ControlChannel($server, 5.0);
        $key = TransferKey::query()->findOrFail($this->k->id('key reef'));
        $zone = self::MOORINGS.'.';
        $channel->ask('views', ['views' => [['name' => 'all', 'clients' => ['0.0.0.0/0', '::/0']]]]);
        $channel->ask('keys', ['keys' => [$key->told()]]);
        $channel->ask('apply', [
            'view' => 'all', 'zone' => $zone, 'from' => null, 'first' => true,
            'add' => ["$zone 3600 SOA reef1.kittiwake.example. hostmaster.kittiwake.example. 1 7200 900 1209600 300",
                "$zone 3600 NS reef1.kittiwake.example."],
            'transfer' => ["key $key->name"], 'notify' => [], 'update' => ['mode' => 'key', 'from' => ["key $key->name"]], 'lapse' => null,
        ]);
    }

    /** @return ?array{port: int, control: int, token: string} */
    private function own(): ?array
    {
        $settings = json_decode((string) @file_get_contents((string) config('harbor.standins')), true);

        return $settings['reef1'] ?? null;
    }
}
