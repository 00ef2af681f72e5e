<?php

declare(strict_types=1);

namespace App\Acts\Imports;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** An import comes into its next state. */
final readonly class MarkImport extends Act
{
    public function __construct(public string $import, public ImportState $state, public string $message = '')
    {
    }

    public function title(): string
    {
        return "Import: {$this->state->value}";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('import.one', $this->import);
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("import:$this->import");
        $import = Import::query()->find($this->import) ?? $ledger->refuse('gone', 'The import is not there any more');
        if (! $import->state->leadsTo($this->state)) {
            $ledger->refuse(
                'ended',
                "The import is {$import->state->value} already",
                $this->state === ImportState::Taking ? 'Only what was read and judged to its end can be taken over.' : '',
            );
        }
        $import->state = $this->state;
        $import->message = mb_strimwidth($this->message, 0, 990, '…');
        $import->counts = DB::table('import_rows')->where('import_id', $import->id)->groupBy('verdict')
            ->selectRaw('verdict, COUNT(*) as n')->pluck('n', 'verdict')->all();
        $import->save();
    }
}
