<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Models\Person;
use Illuminate\Support\Facades\DB;

/** Somebody chooses for themselves which columns a table shows, and how close the rows of all tables stand. */
final readonly class SetTable extends Act
{
    use OfOneself;

    /** Tables that somebody may have a choice for; of more the oldest is forgotten. */
    private const TABLES = 100;

    /**
     * @param  list<string>  $columns  heads of the table that may be left out
     * @param  list<string>  $show  those of them that are shown
     */
    public function __construct(
        #[Field(Kind::Line, 'Table', most: 60)]
        public string $table,
        #[Field(Kind::Texts, 'Columns', most: 60)]
        public array $columns = [],
        #[Field(Kind::Texts, 'Shown', most: 60)]
        public array $show = [],
        #[Field(Kind::Flag, 'Rows close together')]
        public bool $dense = false,
    ) {
    }

    public function title(): string
    {
        return 'Choose the columns';
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        $row = Person::query()->lockForUpdate()->findOrFail($person->id);
        $hidden = $row->tables['hide'] ?? [];
        unset($hidden[$this->table]);
        $away = array_slice(array_values(array_diff($this->columns, $this->show)), 0, 40);
        $hidden = array_slice($away === [] ? $hidden : $hidden + [$this->table => $away], -self::TABLES);
        DB::table('people')->where('id', $row->id)->update(['tables' => json_encode(['hide' => $hidden, 'dense' => $this->dense])]);
    }
}
