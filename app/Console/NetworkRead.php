<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Scan\KeepSwitchVlans;
use App\Links\NetworkLink;
use App\Links\Unanswered;
use Illuminate\Console\Command;

final class NetworkRead extends Command
{
    protected $signature = 'network:read';

    protected $description = 'Reads from the switches which VLANs, gateway interfaces and relays they have';

    public function handle(Acts $acts): int
    {
        $link = NetworkLink::first();
        if ($link === null) {
            $this->line('no server that reads the network is written down');

            return 0;
        }
        try {
            $outcome = $acts->commit(null, [new KeepSwitchVlans($link->vlans(), $link->ports())]);
        } catch (Unanswered $e) {
            $this->error($e->getMessage());

            return 1;
        }
        foreach ($outcome->notes() as $note) {
            $this->warn($note->message);
        }
        $this->line((is_int($outcome->made('vlans')) ? $outcome->made('vlans') : 0).' VLANs read');

        return 0;
    }
}
