<?php

declare(strict_types=1);

namespace App\Acts\Ship;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Server;
use App\Models\ShipsWhen;
use App\Models\ShipWindow;
use App\Queries\ShipTimes;

/** A window is no more. */
final readonly class RemoveWindow extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Window', of: ShipWindow::class)]
        public string $window,
    ) {
    }

    public function title(): string
    {
        return 'Remove the window '.(ShipWindow::query()->find($this->window)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('ship.times');
    }

    public function apply(Ledger $ledger): void
    {
        (ShipWindow::query()->find($this->window) ?? $ledger->refuse('gone', 'The window is not there any more'))->delete();
        $times = ShipTimes::now();
        $left = Server::query()->where('ships', ShipsWhen::Windows)->orderBy('name')->get()
            ->filter(static fn (Server $s): bool => $times->windowsOf($s) === []);
        if ($left->isNotEmpty()) {
            $ledger->warn(
                'no-window',
                "{$left->pluck('name')->implode(', ')} would be left without a window",
                'What waits for them is shipped by hand then.',
            );
        }
    }
}
