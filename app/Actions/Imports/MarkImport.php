<?php

declare(strict_types=1);

namespace App\Actions\Imports;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Import;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** An import comes into its next state. */
final readonly class MarkImport extends Action
{
    public function __construct(public string $import, public string $state, public string $message = '')
    {
    }

    public function title(): string
    {
        return "Import: $this->state";
    }

    public static function may(Person $person): bool
    {
        return ! $person->isBound();
    }

    public function landing(): string
    {
        return "/import/$this->import";
    }

    public function apply(Ledger $ledger): void
    {
        $import = Import::query()->lockForUpdate()->find($this->import) ?? $ledger->refuse('gone', 'The import is not there any more');
        if (in_array($import->state, ['taken', 'cancelled'], true)) {
            $ledger->refuse('ended', "The import is $import->state already");
        }
        $import->state = $this->state;
        $import->message = mb_strimwidth($this->message, 0, 990, '…');
        $import->counts = DB::table('import_rows')->where('import_id', $import->id)->groupBy('verdict')->selectRaw('verdict, COUNT(*) as n')->pluck('n', 'verdict')->all();
        $import->save();
    }
}
