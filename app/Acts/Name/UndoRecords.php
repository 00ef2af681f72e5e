<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Back\BackRecord;
use App\Domain\Back\PastRow;
use App\Models\Record;
use App\Models\Zone;
use Illuminate\Support\Facades\DB;

/** An act on records is undone by its computed opposite, as far as nobody changed the same records since. */
final readonly class UndoRecords extends Act
{
    use OnRecords;

    public function __construct(
        #[Field(Kind::Line, 'Change', most: 26)]
        public string $act,
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone = '',
    ) {
    }

    public function title(): string
    {
        return 'Undo an earlier change';
    }

    public function landing(): string
    {
        return at('name.zone', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $rows = DB::table('history')->where('act_id', $this->act)->orderByDesc('id')->get();
        $newest = $rows->first() ?? $ledger->refuse('gone', 'That change is not in the history');
        $mine = $ledger->person === null || $newest->person_id === $ledger->person->id || $ledger->person->operatesAll();
        $mine ?: $ledger->refuse('not-allowed', 'That change is not available to you');
        $other = $rows->first(fn (object $r): bool => $r->object_type !== Record::noun());
        if ($other !== null) {
            $ledger->refuse(
                'not-only-records',
                "That change also wrote a $other->object_type, $other->title",
                'Undo it where it was made.',
            );
        }
        foreach ($rows as $row) {
            $past = PastRow::of($row);
            $host = Record::query()->whereKey($past->id)->whereNotNull('address_id')->first();
            if ($host !== null && (isset($past->before['owner']) || isset($past->before['data'])) && $past->after !== null) {
                $ledger->refuse(
                    'belongs-to-host',
                    "{$host->line()} belongs to a placed host",
                    'Change the host back, and its names follow.',
                );
            }
            BackRecord::take($ledger, $past);
        }
    }
}
