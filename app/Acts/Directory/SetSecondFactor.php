<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Models\Person;
use HarborPost\Core\Secrets\OneTimeCode;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Str;

/** From now on a code of one's own device is asked for besides the password. The device proves that it has the secret before it counts. */
final readonly class SetSecondFactor extends Act
{
    use OfOneself;

    private const PAPER = 8;

    public function __construct(
        #[Field(Kind::Secret, 'Present password', most: 200)]
        #[\SensitiveParameter] public string $password,
        #[Field(Kind::Secret, 'Secret', most: 100)]
        #[\SensitiveParameter] public string $secret,
        #[Field(Kind::Secret, 'Code', 'Six digits that the device shows now', most: 10)]
        #[\SensitiveParameter] public string $code,
    ) {
    }

    public function title(): string
    {
        return 'Set up a second factor';
    }

    public function apply(Ledger $ledger): void
    {
        $row = Person::query()->lockForUpdate()->find($ledger->personId() ?? '') ?? $ledger->refuse('nobody', 'Nobody is signed in');
        if (! Hash::check($this->password, $row->password)) {
            $ledger->refuse('wrong-password', 'The present password is another one', field: 'password');
        }
        $secret = OneTimeCode::fromBase32($this->secret);
        if ($secret === null || strlen($secret) < 16) {
            $ledger->refuse('bad-secret', 'The secret is too short', 'Take the one that the page shows.', 'RFC 4226 §4', 'secret');
        }
        $counter = OneTimeCode::counterOf($secret, $this->code, $ledger->at->getTimestamp(), 0);
        if ($counter === null) {
            $ledger->refuse(
                'wrong-code',
                'The device shows another code',
                'Is its clock right? A code holds half a minute.',
                'RFC 6238 §5.2',
                'code',
            );
        }
        $paper = array_map(static fn (): string => implode('-', str_split(Str::lower(Str::random(12)), 4)), range(1, self::PAPER));
        $row->code_secret = OneTimeCode::base32($secret);
        $row->code_counter = $counter;
        $row->paper_codes = array_map(static fn (string $c): string => hash('sha256', $c), $paper);
        $row->epoch++;
        $row->save();
        $ledger->made['epoch'] = $row->epoch;
        $ledger->made['once'] = implode('  ', $paper);
        $ledger->made['once-words'] = 'Keep these on paper: each opens one sign-in when the device is lost.';
    }
}
