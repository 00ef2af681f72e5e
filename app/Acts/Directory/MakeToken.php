<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Domain\Directory\NewToken;
use App\Queries\Reach;

/** A program may act for the person who makes the token, within their rights; it is shown once. */
final readonly class MakeToken extends Act
{
    use OfOneself;

    /** @param  list<string>  $acts */
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 80)]
        public string $name,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Flag, 'Writes', 'It may do acts; without this it reads')]
        public bool $writes = false,
        #[Field(Kind::Texts, 'Acts', 'Keys of the acts it may do; all of yours when none is named', most: 60)]
        public array $acts = [],
        #[Field(Kind::Number, 'Days', 'After which it ends', most: 3650, least: 1)]
        public int $days = 90,
        #[Field(Kind::Flag, 'Calendar', 'It is the address of the calendar of what is due, and opens nothing else')]
        public bool $calendar = false,
    ) {
    }

    public function title(): string
    {
        return "Make the token $this->name";
    }

    public static function guarded(): bool
    {
        return true;
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'A token acts for a person: sign in');
        if ($person->program || str_starts_with((string) $ledger->via, 'token ')) {
            $ledger->refuse('token-makes-none', 'A program makes no token', 'Somebody who is there makes it, and sees it once.');
        }
        if ($this->calendar && ($this->writes || $this->acts !== [])) {
            $ledger->refuse(
                'calendar-reads',
                'The address of a calendar does no acts',
                'Make a token of its own for them.',
                field: 'calendar',
            );
        }
        if ($this->calendar && ! Reach::of($person)->isWhole()) {
            $ledger->refuse(
                'calendar-whole',
                'What is due is shown to those who see the whole plan',
                'Ask a steward.',
                field: 'calendar',
            );
        }
        $secret = NewToken::make(
            $ledger, $person, $this->id, $this->name, $this->writes, $this->acts, $this->days, $this->calendar,
        );
        $ledger->made['once'] = $this->calendar ? url(at('due', $secret)) : $secret;
        $ledger->made['once-words'] = $this->calendar ? 'The address for your calendar is' : 'The token is';
    }
}
