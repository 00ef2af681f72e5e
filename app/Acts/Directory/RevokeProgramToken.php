<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Token;
use Carbon\CarbonImmutable;

/** A token of a program ends at once. */
final readonly class RevokeProgramToken extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Token', most: 26)]
        public string $token,
    ) {
    }

    public function title(): string
    {
        return 'End a token of a program';
    }

    public static function may(Person $person): bool
    {
        return MakeProgramToken::may($person);
    }

    public static function governed(): bool
    {
        return false;
    }

    public function landing(): string
    {
        $token = Token::query()->find($this->token);

        return $token === null ? at('directory.list', 'people') : at('directory.person', $token->person_id);
    }

    public function apply(Ledger $ledger): void
    {
        $token = Token::query()->whereNull('revoked_at')->whereHas('person', static fn ($q) => $q->where('program', true))
            ->find($this->token) ?? $ledger->refuse('gone', 'The token is not there any more, or is no program\'s');
        $token->revoked_at = CarbonImmutable::instance($ledger->at);
        $token->save();
    }
}
