<?php

declare(strict_types=1);

namespace App\Acts\Imports;

use App\Acts\Engine\Act;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Plan\PlanColumns;
use App\Models\Import;
use App\Models\ImportState;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** What the headings of a file mean is said, and kept under a name for the next file of its kind. */
final readonly class MapColumns extends Act
{
    /** @param  array<string, string>  $mapping  heading in lower case → column of ours; blank passes it over */
    public function __construct(public string $import, public array $mapping, public string $name = '')
    {
    }

    public function title(): string
    {
        return 'Name the columns';
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
        if ($import->state !== ImportState::Headings) {
            $ledger->refuse('ended', "The import is {$import->state->value} already");
        }
        foreach ($this->mapping as $heading => $column) {
            if ($column !== '' && ! PlanColumns::has($column)) {
                $ledger->refuse('bad-column', "\"$column\" for \"$heading\" is no column of ours", field: 'mapping');
            }
        }
        $import->mapping = $this->mapping;
        $import->state = ImportState::Reading;
        $import->message = '';
        $import->save();
        if (trim($this->name) !== '') {
            DB::table('column_maps')->updateOrInsert(
                ['name' => mb_strimwidth(trim($this->name), 0, 60)],
                ['mapping' => json_encode($this->mapping, JSON_THROW_ON_ERROR), 'person_id' => $ledger->personId()],
            );
        }
    }
}
