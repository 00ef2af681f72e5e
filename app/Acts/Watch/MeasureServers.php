<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Server;

/** Servers are measured, or are an exception with its reason. */
final readonly class MeasureServers extends Act
{
    /** @param  list<string>  $servers */
    public function __construct(
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public array $servers,
        #[Field(Kind::Choice, 'Measured', choices: ['yes', 'no'])]
        public string $measured = 'yes',
        #[Field(Kind::Line, 'Why not', most: 255)]
        public string $why = '',
    ) {
    }

    public function title(): string
    {
        return ($this->measured === 'yes' ? 'Measure ' : 'Do not measure ').(count($this->servers) === 1 ? 'a server'
            : count($this->servers).' servers');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('watch.servers');
    }

    public function apply(Ledger $ledger): void
    {
        if ($this->servers === []) {
            $ledger->refuse('nothing-chosen', 'Choose servers', field: 'servers');
        }
        if ($this->measured === 'no' && trim($this->why) === '') {
            $ledger->refuse('no-reason', 'An exception has a reason', 'The list of gaps shows it.', field: 'why');
        }
        foreach (Server::query()->whereIn('id', $this->servers)->orderBy('name')->get() as $server) {
            $server->fill(['measured' => $this->measured === 'yes', 'unmeasured_why' => $this->measured === 'yes' ? '' : trim($this->why)])
                ->save();
            if ($this->measured === 'yes' && $server->metrics === null) {
                $ledger->warn(
                    'no-figures-there',
                    "$server->name has no address for its figures",
                    'A steward writes it down on its page.',
                    field: 'servers',
                    link: at('ship.server', $server->id),
                );
            }
        }
    }
}
