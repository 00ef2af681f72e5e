<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Acts\Engine\Ledger;

/** What a password must be: long, and none that everybody tries first (NIST SP 800-63B §5.1.1.2). */
final class Passwords
{
    public const LEAST = 12;

    /** What is tried first, without digits and signs around it. */
    private const COMMON = [
        'password', 'passwort', 'qwertyuiop', 'qwertyuiopasdf', 'qwertzuiop', 'letmein', 'welcome', 'iloveyou', 'administrator',
        'admin', 'changeme', 'trustno', 'correcthorsebatterystaple', 'abcdefghijkl', 'abcdefghijklmnop',
        'harbour', 'harbor', 'harbourdemo', 'harbordemo', 'harborpost', 'harbourpost', 'secret', 'summer', 'winter', 'monkey', 'dragon',
        'sunshine', 'football', 'baseball', 'princess', 'master', 'superman', 'batman', 'shadow', 'computer', 'internet',
        'network', 'default', 'guest', 'login', 'starwars', 'whatever', 'zaqxswcde', 'qazwsxedc', 'asdfghjkl', 'zxcvbnm', 'passw',
        'ppassword',
    ];

    /** @param  list<string>  $names  what belongs to the person and is guessed */
    public static function check(Ledger $ledger, string $password, array $names, string $field = 'password'): void
    {
        if (mb_strlen($password) < self::LEAST) {
            $ledger->refuse(
                'short-password',
                'A password has at least '.self::LEAST.' characters',
                'A sentence is easy to remember.',
                'NIST SP 800-63B §5.1.1.2',
                $field,
            );
        }
        $bare = (string) preg_replace(
            '/[^a-z]/',
            '',
            strtr(
                mb_strtolower($password),
                ['0' => 'o', '1' => 'i', '3' => 'e', '4' => 'a', '5' => 's', '7' => 't', '@' => 'a', '$' => 's', '!' => 'i'],
            ),
        );
        $plain = (string) preg_replace('/[^a-z]/', '', mb_strtolower($password));
        foreach ($names as $name) {
            $name = mb_strtolower(trim($name));
            if ($name !== '' && trim(str_replace($name, '', mb_strtolower($password)), ' 0123456789.-_!') === '') {
                $ledger->refuse(
                    'weak-password',
                    'The password is little more than a name',
                    'Names are tried first.',
                    'NIST SP 800-63B §5.1.1.2',
                    $field,
                );
            }
        }
        $common = in_array($bare, self::COMMON, true) || in_array($plain, self::COMMON, true);
        if (
            count(array_unique(mb_str_split($password))) < 5
                || $plain === ''
                || self::isSequence($password)
                || $common && ! (config('harbor.demo') && $ledger->person === null)
        ) {
            $ledger->refuse(
                'weak-password',
                'That password is one of the first that everybody tries',
                'Take several words that do not belong together.',
                'NIST SP 800-63B §5.1.1.2',
                $field,
            );
        }
    }

    private static function isSequence(string $password): bool
    {
        $steps = [];
        for ($i = 1; $i < strlen($password); $i++) {
            $steps[ord($password[$i]) - ord($password[$i - 1])] = true;
        }

        return count($steps) === 1;
    }
}
