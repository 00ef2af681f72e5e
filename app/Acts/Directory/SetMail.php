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
use HarborPost\Core\Watch\QuietHours;

/** Somebody says where they get mail, and when. */
final readonly class SetMail extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Line, 'Mail address', 'Blank for none', most: 190)]
        public string $mail = '',
        #[Field(Kind::Choice, 'When', choices: ['never', 'daily', 'now'])]
        public string $when = 'daily',
        #[Field(Kind::Line, 'Time zone', 'As Europe/London; blank for that of the settings', most: 64, blank: true)]
        public string $zone = '',
        #[Field(Kind::Line, 'Hour of the daily mail', 'From 0 to 23; blank for that of the settings', most: 2, blank: true)]
        public string $hour = '',
        #[Field(Kind::Line, 'Quiet from', 'As 22:00; blank for none', most: 5, blank: true)]
        public string $quietFrom = '',
        #[Field(Kind::Line, 'Quiet to', most: 5, blank: true)]
        public string $quietTo = '',
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
        [$from, $to] = $this->quiet($ledger);
        $row->fill([
            'mail' => $mail === '' ? null : $mail, 'mail_when' => $when, 'mail_zone' => trim($this->zone),
            'mail_hour' => $this->hour($ledger),
            'quiet_from' => $from, 'quiet_to' => $to,
        ])->save();
    }

    private function hour(Ledger $ledger): ?int
    {
        $hour = trim($this->hour);
        $hour === '' || ctype_digit($hour) && (int) $hour < 24
            ?: $ledger->refuse('bad-hour', "\"$hour\" is no hour of the day", 'One from 0 to 23.', field: 'hour');

        return $hour === '' ? null : (int) $hour;
    }

    /** @return array{?int, ?int} minutes since midnight */
    private function quiet(Ledger $ledger): array
    {
        $field = 'zone';
        try {
            trim($this->zone) === '' ?: QuietHours::zone(trim($this->zone));
            if (trim($this->quietFrom.$this->quietTo) === '') {
                return [null, null];
            }
            $field = 'quietFrom';
            $quiet = QuietHours::read($this->quietFrom, $this->quietTo, trim($this->zone) ?: (string) config('harbor.mail.zone'));

            return [$quiet->from, $quiet->to];
        } catch (\DomainException $e) {
            $ledger->refuse('bad-quiet-hours', $e->getMessage(), field: $field);
        }
    }
}
