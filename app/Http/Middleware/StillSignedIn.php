<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\Person;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/** A session ends at once when the sign-in is closed, when all sessions of the person were ended, and after a working day in any case. */
final class StillSignedIn
{
    public function handle(Request $request, Closure $next): Response
    {
        $person = Auth::user();
        if (! $person instanceof Person) {
            return $next($request);
        }
        $session = $request->session();
        $since = $session->get('signed_in_at');
        $over = is_int($since) && time() - $since > (int) config('harbor.session.longest');
        if (! $person->active || $over || $session->get('epoch', $person->epoch) !== $person->epoch) {
            Auth::logoutCurrentDevice();
            $session->invalidate();
            $session->regenerateToken();

            return redirect(at('login'))->with(
                'bad',
                $over ? 'You were signed in for a whole working day. Sign in again.' : 'This session was ended. Sign in again.',
            );
        }
        if ($person->must_change && ! $request->is('me', 'act/change-password', 'sign-out')) {
            return redirect(at('me'))->with('bad', 'Your password was for one sign-in. Set one of your own first.');
        }
        $allowed = ['me', 'me/second-factor', 'act/set-second-factor', 'act/change-password', 'sign-out'];
        if ($person->lacksSecondFactor() && ! $request->is(...$allowed)) {
            return redirect(at('me.second-factor'))->with('bad', 'Your role signs in with a second factor. Set one up first.');
        }

        return $next($request);
    }
}
