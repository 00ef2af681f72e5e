<?php

declare(strict_types=1);

namespace App\Http;

use App\Models\Person;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\RateLimiter;

/**
 * Who sits at the screen showed by the password, lately, who they are. What opens doors to others, and what shows a secret, asks for
 * that: a session that was left open is not enough.
 */
final class Sure
{
    private const SESSION = 'sure';

    /** Wrong passwords in five minutes. */
    private const TRIES = 5;

    public const ASKED = 'Say your password: this gives rights or shows a secret, and it was asked for too long ago.';

    public const WRONG = 'The password was not right, or was tried too often. Nothing was done.';

    public static function is(Request $request): bool
    {
        $since = $request->session()->get(self::SESSION);

        return is_int($since) && $since <= time() && $since > time() - (int) config('harbor.session.sure');
    }

    public static function begin(Request $request): void
    {
        $request->session()->put(self::SESSION, time());
    }

    /** Is it so, or does this password make it so? */
    public static function by(Request $request, Person $person, string $password): bool
    {
        if (self::is($request)) {
            return true;
        }
        if ($password === '' || ! self::knows($person, $password)) {
            return false;
        }
        self::begin($request);

        return true;
    }

    /** Is this the person's password? Bounded in tries, and asked whatever the session says. */
    public static function knows(Person $person, string $password): bool
    {
        $key = "surely:$person->id";
        // Counted before it is tried, so that many at once do not slip through together.
        if (RateLimiter::hit($key, 300) > self::TRIES) {
            return false;
        }
        $right = Hash::check($password, $person->password);
        $right ? RateLimiter::clear($key) : null;

        return $right;
    }
}
