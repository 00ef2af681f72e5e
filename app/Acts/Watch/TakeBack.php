<?php

declare(strict_types=1);

namespace App\Acts\Watch;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Back\PastRow;
use App\Domain\Back\WayBack;
use App\Models\NameGrant;
use App\Models\Person;
use App\Models\Team;
use App\Models\TeamMember;

/** What was committed is taken back, computed from the history: all of it, or all but what is to stay as it is. */
final readonly class TakeBack extends Act
{
    /**
     * @param  list<string>  $acts
     * @param  list<string>  $leave
     */
    public function __construct(
        #[Field(Kind::Texts, 'Changes', 'Ids of acts, as history has them', most: 26)]
        public array $acts,
        #[Field(Kind::Texts, 'Stays', 'Objects that stay as they are: kind:id', most: 60)]
        public array $leave = [],
    ) {
    }

    public function title(): string
    {
        $rows = WayBack::rows($this->acts);
        $first = $rows->last();

        return match (true) {
            $first === null => 'Take a change back',
            $rows->count() === 1 => 'Take back: '.$first->called(),
            default => 'Take back: '.$first->called().' and '.number_format($rows->count() - 1).' more',
        };
    }

    /** History of everything: for those who see all of it. */
    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    /** What shut a door opens it again. */
    public function opensDoors(): bool
    {
        return WayBack::rows($this->acts)->contains(static fn (PastRow $row): bool => in_array($row->noun, [
            Team::noun(), TeamMember::noun(), NameGrant::noun(),
        ], true));
    }

    public function landing(): string
    {
        return at('watch');
    }

    public function apply(Ledger $ledger): void
    {
        WayBack::take($ledger, $this->acts, $this->leave);
    }
}
