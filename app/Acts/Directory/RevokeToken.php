<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Acts\Engine\OfOneself;
use App\Models\Token;
use Carbon\CarbonImmutable;

/** One's own token ends at once. */
final readonly class RevokeToken extends Act
{
    use OfOneself;

    public function __construct(
        #[Field(Kind::Line, 'Token', most: 26)]
        public string $token,
    ) {
    }

    public function title(): string
    {
        return 'End a token';
    }

    public function apply(Ledger $ledger): void
    {
        $token = Token::query()->where('person_id', $ledger->personId())->whereNull('revoked_at')->find($this->token)
            ?? $ledger->refuse('gone', 'The token is not there any more, or not yours');
        $token->revoked_at = CarbonImmutable::instance($ledger->at);
        $token->save();
    }
}
