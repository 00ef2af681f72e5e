<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\Directory\EnterFromOutside;
use App\Acts\Directory\NoteAccess;
use App\Acts\Engine\Acts;
use App\Http\Sure;
use App\Links\Provider;
use App\Links\Unanswered;
use App\Models\Person;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;

/** Signing in at the identity provider of the organisation, and showing there once more who one is. */
final class ProviderController
{
    private const SESSION = 'provider';

    public function leave(Request $request): RedirectResponse
    {
        $provider = Provider::configured() ?? abort(404);
        $asked = Provider::begin(Auth::check(), time());
        try {
            $address = $provider->address($asked, self::returning());
        } catch (Unanswered $e) {
            return self::refused($e->getMessage());
        }
        $request->session()->put(self::SESSION, $asked);

        return redirect()->away($address);
    }

    public function back(Request $request, Acts $acts): RedirectResponse
    {
        $provider = Provider::configured() ?? abort(404);
        /** @var array{state: string, nonce: string, verifier: string, at: int, sure: bool}|null $asked */
        $asked = $request->session()->pull(self::SESSION);
        $word = static fn (string $key): string => is_string($request->query($key)) ? mb_strimwidth($request->query($key), 0, 2000) : '';
        if ($asked === null || ! Provider::holds($asked, $word('state'), time())) {
            return self::refused('That sign-in was begun elsewhere, or took too long. Begin again.');
        }
        if ($word('error') !== '') {
            return self::refused("$provider->name did not let you in: ".mb_strimwidth($word('error'), 0, 80, '…').'.');
        }
        try {
            $claims = $provider->claims($asked, $word('code'), self::returning(), time());
        } catch (Unanswered $e) {
            return self::refused($e->getMessage());
        }
        $person = Auth::user();
        if ($asked['sure'] && $person instanceof Person) {
            if ($person->outside_subject === null || ! hash_equals($person->outside_subject, $provider->subject($claims))) {
                return redirect(at('me'))->with('bad', "At $provider->name you are somebody else than here.");
            }
            Sure::begin($request);

            return redirect(at('me'))->with('done',
                'You showed who you are. Go on where you were: nothing is asked again for ten minutes.');
        }

        return Auth::check() ? redirect('/') : self::enter($request, $acts, $provider, $claims);
    }

    /** @param  array<string, mixed>  $claims */
    private static function enter(Request $request, Acts $acts, Provider $provider, array $claims): RedirectResponse
    {
        $text = static fn (string $key): string => is_string($claims[$key] ?? null) ? mb_strimwidth($claims[$key], 0, 190) : '';
        $groups = $claims[(string) config('harbor.oidc.groups')] ?? [];
        $act = new EnterFromOutside(
            $provider->subject($claims), $text((string) config('harbor.oidc.claim')), $text('name'),
            array_values(array_filter(is_array($groups) ? $groups : [], is_string(...))), (string) config('harbor.oidc.makes'),
        );
        $outcome = $acts->commit(null, [$act]);
        $id = $outcome->made('person');
        $person = $outcome->blocked() || ! is_string($id) ? null : Person::query()->find($id);
        if ($person === null) {
            $who = $text((string) config('harbor.oidc.claim'));
            $acts->commit(null, [new NoteAccess('sign-in refused', Person::noun(), '', $who, (string) $request->ip())]);

            return self::refused($outcome->block() === null ? 'It could not be done. Try again.'
                : trim("{$outcome->block()->message}. {$outcome->block()->why}"));
        }
        if ($person->code_secret !== null && array_intersect((array) ($claims['amr'] ?? []), ['mfa', 'otp', 'hwk', 'fpt', 'face']) === []) {
            // One factor alone opens nothing to somebody who has a second one.
            $request->session()->regenerate();
            $request->session()->put('half', ['person' => $person->id, 'until' => time() + 120]);

            return redirect(at('sign-in.code'));
        }

        return SessionController::open($request, $person, $acts);
    }

    private static function refused(string $why): RedirectResponse
    {
        return redirect(Auth::check() ? at('me') : at('login'))->with('bad', $why);
    }

    private static function returning(): string
    {
        return url(at('sign-in.back'));
    }
}
