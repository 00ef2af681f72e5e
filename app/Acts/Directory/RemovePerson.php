<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\HangingOnPerson;
use App\Models\Person;
use App\Models\Token;
use Carbon\CarbonImmutable;
use Illuminate\Support\Str;

/** Somebody left: they are on no list any more and come in by no door. What they did stays in the history under their name. */
final readonly class RemovePerson extends Act
{
    use OnPeople;

    public function __construct(
        #[Field(Kind::Id, 'Person', of: Person::class)]
        public string $person,
    ) {
    }

    public function title(): string
    {
        return 'Remove '.(Person::query()->find($this->person)->name ?? 'a person');
    }

    public function apply(Ledger $ledger): void
    {
        $row = Person::query()->whereNull('removed_at')->lockForUpdate()->find($this->person)
            ?? $ledger->refuse('gone', 'The person is not there any more');
        if ($row->id === $ledger->person?->id) {
            $ledger->refuse('yourself', 'Nobody removes themselves');
        }
        $hangs = HangingOnPerson::on($row);
        if ($hangs !== []) {
            $ledger->refuse(
                'still-hangs',
                "$row->name still has ".implode('; ', $hangs),
                'Give these to somebody else, or remove them first.',
            );
        }
        $tokens = Token::query()->where('person_id', $row->id)->whereNull('revoked_at')->get();
        foreach ($tokens as $token) {
            $token->revoked_at = CarbonImmutable::instance($ledger->at);
            $token->save();
        }
        $this->shut($row);
        $row->removed_at = CarbonImmutable::instance($ledger->at);
        $row->save();
        $ledger->later("What $row->name did stays in the history; the sign-in $row->sign_in is not given again");
        $tokens->isEmpty() || $ledger->later($tokens->count() === 1 ? '1 token ends at once' : "{$tokens->count()} tokens end at once");
    }

    /** No door is left: neither the password nor a second factor, nor the identity provider, nor a session that is open. */
    private function shut(Person $row): void
    {
        $row->active = false;
        $row->epoch++;
        $row->password = Str::random(60);
        $row->code_secret = $row->paper_codes = $row->outside_name = $row->outside_subject = $row->mail = null;
    }
}
