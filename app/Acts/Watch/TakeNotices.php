<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Notice;
use App\Models\Person;

/** Somebody looks after notices, or leaves them quiet for some hours; they go on when what they tell of is over. */
final readonly class TakeNotices extends Act
{
    /** @param  list<string>  $notices */
    public function __construct(
        #[Field(Kind::Ids, 'Notices', of: Notice::class)]
        public array $notices,
        #[Field(Kind::Number, 'Quiet for hours', '0: somebody looks after them', most: 720)]
        public int $hours = 0,
    ) {
    }

    public function title(): string
    {
        $count = count($this->notices) === 1 ? 'a notice' : count($this->notices).' notices';

        return $this->hours === 0 ? "Look after $count" : "Leave $count quiet for $this->hours hours";
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        return at('watch.notices');
    }

    public function apply(Ledger $ledger): void
    {
        $this->notices !== [] ?: $ledger->refuse('none-picked', 'Pick notices first', field: 'notices');
        foreach (Notice::query()->whereIn('id', $this->notices)->whereNull('over_at')->lockForUpdate()->get() as $notice) {
            $notice->fill($this->hours === 0
                ? ['taken_by' => $ledger->personId(), 'taken_at' => $ledger->at]
                : ['quiet_until' => \Carbon\CarbonImmutable::instance($ledger->at)->addHours($this->hours)])->save();
        }
    }
}
