<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Token;
use Carbon\CarbonImmutable;

/** A token as it is made: its secret is shown once, and only its hash is kept. */
final class NewToken
{
    /** Bytes of chance in it. */
    private const BYTES = 24;

    /**
     * @param  list<string>  $acts  keys of the acts it may do; all of its person's when none is named
     * @return string the secret
     */
    public static function make(
        Ledger $ledger,
        Person $person,
        string $id,
        string $name,
        bool $writes,
        array $acts,
        int $days,
        bool $calendar = false,
    ): string {
        if ($name === '') {
            $ledger->refuse('no-name', 'Name the program that uses it', 'The history says it with every change.', field: 'name');
        }
        $unknown = array_values(array_filter($acts, static fn (string $key): bool => preg_match('/\A[a-z-]{3,60}\z/', $key) !== 1));
        if ($unknown !== []) {
            $ledger->refuse('no-such-act', "\"$unknown[0]\" is no key of an act", 'Keys are as place-host.', null, 'acts');
        }
        $secret = Token::MARK.rtrim(strtr(base64_encode(random_bytes(self::BYTES)), '+/', '-_'), '=');
        (
            new Token([
                'id' => $id, 'person_id' => $person->id, 'name' => $name, 'hash' => Token::hashOf($secret), 'writes' => $writes,
                'calendar' => $calendar, 'acts' => $acts === [] ? null : $acts,
                'expires_at' => CarbonImmutable::instance($ledger->at)->addDays($days),
                'made_at' => CarbonImmutable::instance($ledger->at),
            ])
        )->save();

        return $secret;
    }
}
