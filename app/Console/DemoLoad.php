<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Models\Person;
use Database\Scenario\Kittiwake;
use Database\Scenario\Watching;
use Illuminate\Console\Command;

final class DemoLoad extends Command
{
    protected $signature = 'demo:load';

    protected $description = 'Loads the demo scenario into an empty database';

    public function handle(Acts $acts): int
    {
        if (Person::query()->exists()) {
            $this->error('The database is not empty; the scenario is loaded into an empty one only.');

            return 1;
        }
        (new Kittiwake($acts))->load();
        // What was changed by hand on the servers is known from the first page on.
        $this->callSilently('drift:look');
        (new Watching($acts, new Kittiwake($acts)))->notices();

        return 0;
    }
}
