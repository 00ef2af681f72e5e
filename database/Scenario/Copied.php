<?php

declare(strict_types=1);

namespace Database\Scenario;

use App\Acts\Directory\MakeServer;
use App\Acts\Name\AddRecord;
use App\Acts\Name\MakeKey;
use App\Acts\Name\MakeZone;
use App\Acts\Name\ServeZone;
use App\Models\Speaks;
use App\Models\TransferKey;

/** A zone that Harbor Post hands out itself: no client asks its primary, two servers copy it. */
final class Copied
{
    public const SERVER = 'berth1';

    private const ZONE = 'parcels.kittiwake.example';

    public function __construct(private readonly Kittiwake $k)
    {
    }

    public function plan(): void
    {
        if ((string) config('harbor.names') === '') {
            return;
        }
        $zone = $this->k->id('zone '.self::ZONE);
        $this->k->do(
            new MakeKey('copies.kittiwake.example', $this->k->id('key copies'), '', 'who copies from berth1'),
            new MakeServer(
                name: self::SERVER, kind: 'dns', endpoint: (string) config('harbor.names'), id: $this->k->id('server '.self::SERVER),
                address: '10.32.0.52', speaks: Speaks::Here->value, catalog: 'catalog.kittiwake.example',
            ),
        );
        $this->k->do(
            new MakeZone(
                name: self::ZONE, view: $this->k->id('view shore'), id: $zone,
                servers: array_map($this->k->id(...), ['server '.self::SERVER, 'server lamp1', 'server lamp2']),
                mailbox: 'hostmaster@kittiwake.example',
            ),
        );
        $this->k->do(
            new ServeZone($zone, 'list', 'key '.TransferKey::query()->findOrFail($this->k->id('key copies'))->name),
            new AddRecord($zone, 'A', '10.32.0.71', '', 'desk'),
            new AddRecord($zone, 'TXT', '"left luggage and parcels, Orrin Pier"', '', '@'),
            new AddRecord($zone, 'CNAME', 'desk', '', 'www'),
            new AddRecord($this->k->id('zone kittiwake.example shore'), 'NS', 'lamp1', '', 'parcels'),
            new AddRecord($this->k->id('zone kittiwake.example shore'), 'NS', 'lamp2', '', 'parcels'),
        );
    }
}
