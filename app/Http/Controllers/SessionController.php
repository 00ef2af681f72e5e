<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Actions\Acts;
use App\Actions\Directory\MakePerson;
use App\Models\Person;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\RateLimiter;

final class SessionController
{
    public function show(): View|RedirectResponse
    {
        if (Person::query()->doesntExist()) {
            return redirect('/first-person');
        }

        return view('sign-in');
    }

    /** Ten wrong tries a minute for one name from one place; right ones do not count. */
    private const TRIES = 10;

    public function store(Request $request): RedirectResponse|Response
    {
        $given = $request->validate(['sign_in' => 'required|string|max:60', 'password' => 'required|string|max:200']);
        $key = 'sign-in|'.strtolower(trim($given['sign_in'])).'|'.$request->ip();
        if (RateLimiter::tooManyAttempts($key, self::TRIES)) {
            session()->flash('bad', 'Too many wrong tries. Wait '.RateLimiter::availableIn($key).' seconds, then try again.');

            return response()->view('sign-in', [], 429);
        }
        if (! Auth::attempt(['sign_in' => strtolower(trim($given['sign_in'])), 'password' => $given['password'], 'active' => true])) {
            RateLimiter::hit($key);

            return back()->withInput(['sign_in' => $given['sign_in']])->with('bad', 'The sign-in name and the password do not belong together, or the sign-in is closed.');
        }
        RateLimiter::clear($key);
        $request->session()->regenerate();

        return redirect()->intended('/');
    }

    public function destroy(Request $request): RedirectResponse
    {
        Auth::logoutCurrentDevice();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return redirect('/sign-in');
    }

    public function first(): View|RedirectResponse
    {
        return Person::query()->exists() ? redirect('/sign-in') : view('first-person');
    }

    /** The first person is a steward, planner and operator, or nobody could do anything in an empty installation. */
    public function makeFirst(Request $request, Acts $acts): RedirectResponse
    {
        if (Person::query()->exists()) {
            return redirect('/sign-in');
        }
        $act = MakePerson::fromInput(['roles' => ['steward', 'planner', 'operator']] + $request->only('signIn', 'name', 'password'));
        $outcome = $acts->commit(null, [$act]);
        if ($outcome->blocked()) {
            return back()->withInput($request->only('signIn', 'name'))->with('bad', $outcome->block()->message ?? $outcome->trouble);
        }
        Auth::loginUsingId($act->id);
        $request->session()->regenerate();

        return redirect('/')->with('done', 'Welcome. Start with a space and its top prefix.');
    }
}
