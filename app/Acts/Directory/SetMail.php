<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Models\MailWhen;
use App\Models\Person;

/** Somebody says where they get mail, and when. */
final readonly class SetMail extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Line, 'Mail address', 'Blank for none', most: 190)]
        public string $mail = '',
        #[Field(Kind::Choice, 'When', choices: ['never', 'daily', 'now'])]
        public string $when = 'daily',
    ) {
    }

    public function title(): string
    {
        return 'Say where mail goes';
    }

    public function apply(Ledger $ledger): void
    {
        $person = $ledger->person ?? $ledger->refuse('nobody', 'Nobody is signed in');
        $when = MailWhen::tryFrom($this->when) ?? $ledger->refuse('bad-when', 'Choose when mail comes: never, daily or now', field: 'when');
        $mail = trim($this->mail);
        if ($mail !== '' && filter_var($mail, FILTER_VALIDATE_EMAIL, FILTER_FLAG_EMAIL_UNICODE) === false) {
            $ledger->refuse('bad-mail', "\"$mail\" is no mail address", 'One is written as name@example.org.', 'RFC 5321 §4.1.2', 'mail');
        }
        $allowed = array_filter(explode(' ', mb_strtolower((string) config('harbor.mail.domains'))));
        $domain = mb_strtolower(substr((string) strrchr($mail, '@'), 1));
        if ($mail !== '' && $allowed !== [] && ! in_array($domain, $allowed, true)) {
            $ledger->refuse('mail-elsewhere', 'Mail goes to addresses of '.implode(' and ', $allowed).' alone', field: 'mail');
        }
        $row = Person::query()->findOrFail($person->id);
        $row->fill(['mail' => $mail === '' ? null : $mail, 'mail_when' => $when])->save();
    }
}
