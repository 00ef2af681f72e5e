<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Directory\MakePerson;
use App\Acts\Directory\NoteAccess;
use App\Acts\Engine\Acts;
use App\Acts\Engine\BadInput;
use App\Http\Sure;
use App\Models\Person;
use App\Models\Token;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\RateLimiter;

final class SessionController
{
    public function show(): View|RedirectResponse
    {
        if (Person::query()->doesntExist()) {
            return redirect(at('first-person'));
        }

        return view('sign-in');
    }

    /** Wrong tries a minute for one name from one place, and from one place for all names; right ones do not count. */
    private const TRIES = 10;

    private const TRIES_FROM = 60;

    /** Compared with when nobody has the name, so that the answer takes as long. */
    private const NOBODY = '$2y$12$usesomesillystringforeO0dK5c8rG3ZBqNn5uH0d1zQkVwqXG9e';

    public function store(Request $request, Acts $acts): RedirectResponse|Response
    {
        $given = $request->validate(['sign_in' => 'required|string|max:60', 'password' => 'required|string|max:200']);
        $name = strtolower(trim($given['sign_in']));
        $keys = ['sign-in|'.$name.'|'.$request->ip() => self::TRIES, 'sign-in-from|'.$request->ip() => self::TRIES_FROM];
        foreach ($keys as $key => $most) {
            // Counted before it is tried, so that many at once do not slip through together.
            if (RateLimiter::hit($key) > $most) {
                session()->flash('bad', 'Too many wrong tries. Wait '.RateLimiter::availableIn($key).' seconds, then try again.');

                return response()->view('sign-in', [], 429)->withHeaders(['Retry-After' => (string) RateLimiter::availableIn($key)]);
            }
        }
        $person = Person::query()->where('sign_in', $name)->first();
        $right = Hash::check($given['password'], $person->password ?? self::NOBODY);
        if (! $right || $person === null || ! $person->active || $person->program) {
            $acts->commit(
                null,
                [new NoteAccess('sign-in refused', Person::noun(), $person->id ?? '', $person?->line() ?? $name, (string) $request->ip())],
            );

            return back()->withInput(['sign_in' => $given['sign_in']])
                ->with('bad', 'The sign-in name and the password do not belong together, or the sign-in is closed.');
        }
        foreach (array_keys($keys) as $key) {
            RateLimiter::decrement($key);
        }
        RateLimiter::clear('sign-in|'.$name.'|'.$request->ip());
        if ($person->code_secret !== null) {
            // The password alone opens nothing: for two minutes the session knows who was right about it.
            $request->session()->regenerate();
            $request->session()->put('half', ['person' => $person->id, 'until' => time() + 120]);

            return redirect(at('sign-in.code'));
        }

        return self::open($request, $person, $acts);
    }

    public static function open(Request $request, Person $person, Acts $acts): RedirectResponse
    {
        Auth::login($person);
        $request->session()->regenerate();
        self::begin($request, $person);
        $acts->commit($person, [new NoteAccess('signed in', Person::noun(), $person->id, $person->line(), (string) $request->ip())]);

        return redirect()->intended('/');
    }

    private static function begin(Request $request, Person $person): void
    {
        $request->session()->put(['epoch' => $person->epoch, 'signed_in_at' => time()]);
        Sure::begin($request);
    }

    /** One's own page: password and sessions. */
    public function me(Request $request): View
    {
        $person = Auth::user();
        $sessions = config('session.driver') === 'database'
            ? DB::table('sessions')->where('user_id', $person?->getAuthIdentifier())->orderByDesc('last_activity')
                ->limit(20)->get(['id', 'ip_address', 'user_agent', 'last_activity'])
            : collect();

        return view('me', [
            'me' => $person, 'sessions' => $sessions, 'here' => $request->session()->getId(),
            'tokens' => Token::query()->where('person_id', $person?->getAuthIdentifier())->whereNull('revoked_at')->orderBy('made_at')
                ->get(),
        ]);
    }

    public function destroy(Request $request): RedirectResponse
    {
        Auth::logoutCurrentDevice();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return redirect(at('login'));
    }

    public function first(): View|RedirectResponse
    {
        return Person::query()->exists() ? redirect(at('login')) : view('first-person', ['coded' => self::firstCode() !== null]);
    }

    /** The first person is a steward, planner and operator, or nobody could do anything in an empty installation. */
    public function makeFirst(Request $request, Acts $acts): RedirectResponse
    {
        if (Person::query()->exists()) {
            return redirect(at('login'));
        }
        $code = self::firstCode();
        if ($code !== null && ! hash_equals($code, trim($request->string('code')->toString()))) {
            return back()->withInput($request->only('signIn', 'name'))
                ->with('bad', 'The code is another one: it stands in the terminal, or in the log of the service.');
        }
        try {
            $act = MakePerson::fromInput(['roles' => ['steward', 'planner', 'operator']] + $request->only('signIn', 'name', 'password'));
        } catch (BadInput $e) {
            return back()->withInput($request->only('signIn', 'name'))->with('bad', $e->getMessage());
        }
        $outcome = $acts->commit(null, [$act]);
        if ($outcome->blocked()) {
            return back()->withInput($request->only('signIn', 'name'))->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        Auth::login(Person::query()->findOrFail($act->id));
        $request->session()->regenerate();
        self::begin($request, Person::query()->findOrFail($act->id));

        return redirect(at('first-steps'))->with('done', 'Welcome. Start with a space and its top prefix.');
    }

    /** In service only who can read the machine becomes the first person: the start script writes the code down. */
    private static function firstCode(): ?string
    {
        $file = dirname(storage_path()).'/first.code';

        return is_file($file) ? trim((string) file_get_contents($file)) : null;
    }
}
