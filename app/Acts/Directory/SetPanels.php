<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use Illuminate\Support\Facades\DB;

/** Somebody puts the panels of their bridge in an order of their own, or back into the given one. */
final readonly class SetPanels extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Line, 'Order', 'Keys of panels, apart by blanks; blank for the given order', most: 200)]
        public string $order = '',
    ) {
    }

    public function title(): string
    {
        return 'Arrange the bridge';
    }

    public function landing(): string
    {
        return '/bridge';
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        if (preg_match('/\A[a-z ]*\z/', $this->order) !== 1) {
            $ledger->refuse('no-such-panel', 'Panels have keys of small letters', field: 'order');
        }
        DB::table('people')->where('id', $person->id)->update(['panels' => $this->order === '' ? null : $this->order]);
    }
}
