<?php

declare(strict_types=1);

namespace App\Console;

use App\Queries\Health;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\Schema;

final class SchemaFits extends Command
{
    protected $signature = 'schema:fits';

    protected $description = 'Says whether the tables are older than this version, as it needs them, or newer; newer ones stop a start';

    public function handle(): int
    {
        if (! Schema::hasTable('migrations')) {
            $this->line('no tables yet');

            return 0;
        }
        [$open, $newer] = Health::steps();
        if ($newer !== []) {
            $this->error('The database was moved on by a newer version: '
                .implode(', ', $newer).'. Start that version; nothing was changed.');

            return 1;
        }
        $this->line($open === [] ? 'as this version needs them' : count($open).' steps to be done');

        return 0;
    }
}
