<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Person;
use Illuminate\Console\Command;

final class PeopleCount extends Command
{
    protected $signature = 'people:count';

    protected $description = 'How many people have a sign-in';

    public function handle(): int
    {
        $this->line((string) Person::query()->count());

        return 0;
    }
}
