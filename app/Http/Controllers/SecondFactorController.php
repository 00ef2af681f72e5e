<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Directory\NoteAccess;
use App\Acts\Engine\Acts;
use App\Models\Person;
use HarborPost\Core\Secrets\OneTimeCode;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\RateLimiter;

/** The second step of signing in, and its setting up. */
final class SecondFactorController extends Controller
{
    /** Wrong codes in five minutes for one person: six digits are not many. */
    private const TRIES = 6;

    private const WINDOW = 300;

    public function ask(Request $request): View|RedirectResponse
    {
        return self::half($request) === null ? redirect(at('login'))->with('bad', 'The password comes first.') : view('sign-in-code');
    }

    public function answer(Request $request, Acts $acts): RedirectResponse|Response
    {
        $person = self::half($request);
        if ($person === null) {
            return redirect(at('login'))->with('bad', 'That took too long. The password comes first.');
        }
        $key = "second-factor|$person->id";
        if (RateLimiter::hit($key, self::WINDOW) > self::TRIES) {
            session()->flash('bad', 'Too many wrong codes. Wait '.RateLimiter::availableIn($key).' seconds, then try again.');

            return response()->view('sign-in-code', [], 429)->withHeaders(['Retry-After' => (string) RateLimiter::availableIn($key)]);
        }
        if (! self::opens($person, $request->string('code')->toString())) {
            $note = new NoteAccess('second factor refused', Person::noun(), $person->id, $person->line(), (string) $request->ip());
            $acts->commit(null, [$note]);

            return back()->with('bad', 'That is not the code. A code holds half a minute and opens once.');
        }
        RateLimiter::clear($key);
        $request->session()->forget('half');

        return SessionController::open($request, $person->refresh(), $acts);
    }

    public function set(): View
    {
        $secret = OneTimeCode::base32(random_bytes(20));
        $label = rawurlencode('Harbor Post:'.$this->person()->sign_in);

        return view('second-factor', [
            'me' => $this->person(), 'secret' => $secret, 'uri' => "otpauth://totp/$label?secret=$secret&issuer=Harbor%20Post",
        ]);
    }

    /** Whose password was right a moment ago. */
    private static function half(Request $request): ?Person
    {
        $half = $request->session()->get('half');
        if (! is_array($half) || ! is_int($half['until'] ?? null) || $half['until'] < time()) {
            return null;
        }
        $person = Person::query()->find(is_string($half['person'] ?? null) ? $half['person'] : '');

        return $person?->active === true && $person->code_secret !== null ? $person : null;
    }

    /** A code is used up as it opens, whichever of two that come at once is first. */
    private static function opens(Person $person, string $code): bool
    {
        $secret = OneTimeCode::fromBase32((string) $person->code_secret);
        $counter = $secret === null ? null : OneTimeCode::counterOf($secret, $code, now()->getTimestamp(), $person->code_counter);
        if ($counter !== null) {
            return DB::table('people')->where('id', $person->id)->where('code_counter', '<', $counter)
                ->update(['code_counter' => $counter]) === 1;
        }
        $hash = hash('sha256', strtolower(trim($code)));
        $left = array_values(array_diff($person->paper_codes ?? [], [$hash]));
        if (count($left) === count($person->paper_codes ?? [])) {
            return false;
        }

        return DB::table('people')->where('id', $person->id)->where('paper_codes', json_encode($person->paper_codes))
            ->update(['paper_codes' => json_encode($left)]) === 1;
    }
}
