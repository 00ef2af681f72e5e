<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Watch\Folding;
use App\Models\Person;
use App\Models\Threshold;
use Illuminate\Support\Facades\DB;

/** From where on a figure of servers is told as a notice. */
final readonly class KeepThreshold extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Figure', most: 120, example: 'dns_answers')]
        public string $family,
        #[Field(Kind::Line, 'Value', 'A number; of what counts, by the second', most: 30, example: '0.5')]
        public string $value,
        #[Field(Kind::Choice, 'Is', choices: ['above', 'below'])]
        public string $is = 'above',
        #[Field(Kind::Line, 'Labels', 'As the figure has them; blank: whatever they are', most: 250, example: 'code=ServFail')]
        public string $labels = '',
        #[Field(Kind::Number, 'Minutes', 'That it has to hold', most: 1440, least: 1)]
        public ?int $minutes = null,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return "Tell of $this->family $this->is $this->value";
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
        if (! is_numeric(trim($this->value)) || ! is_finite((float) $this->value)) {
            $ledger->refuse('no-number', "\"$this->value\" is no number", field: 'value');
        }
        $known = DB::table('series')->where('family', trim($this->family))
            ->when(trim($this->labels) !== '', fn ($q) => $q->where('labels', trim($this->labels)));
        if ((clone $known)->doesntExist()) {
            $ledger->refuse('no-figure', 'No server tells '.trim("$this->family $this->labels"), 'Choose one that was read.',
                field: 'family');
        }
        $minutes = $this->minutes ?? 10;
        $row = Threshold::query()->where('family', trim($this->family))->where('labels', trim($this->labels))
            ->where('above', $this->is === 'above')->first() ?? new Threshold(['id' => $this->id]);
        $row->fill([
            'family' => trim($this->family), 'labels' => trim($this->labels), 'above' => $this->is === 'above',
            'value' => (float) $this->value, 'minutes' => $minutes,
        ])->save();
        $days = Folding::STEPS[1][1];
        $over = DB::table('samples')->where('step', 1)->whereIn('series_id', $known->select('id'))
            ->where('mean', $this->is === 'above' ? '>' : '<', (float) $this->value)->count();
        $ledger->later("In the last $days days it was so in ".number_format($over).' minutes, all servers together');
    }
}
