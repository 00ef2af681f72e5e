<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\Person;
use App\Models\Role;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/** A steward sees the application as somebody else does: what that person sees, and nothing is written. */
final class SeesAs
{
    /** The session's key: id of the person as whom one sees. */
    public const KEY = 'sees_as';

    /** The request's attribute: who really looks. */
    public const BY = 'sees-as-by';

    public function handle(Request $request, Closure $next): Response
    {
        $id = $request->hasSession() ? $request->session()->get(self::KEY) : null;
        $steward = Auth::user();
        if (! is_string($id) || ! $steward instanceof Person) {
            return $next($request);
        }
        $person = Person::query()->find($id);
        if ($person === null || ! $steward->does(Role::Steward) || $steward->isBound()) {
            $request->session()->forget(self::KEY);

            return $next($request);
        }
        if ($request->is('directory/sees-as/end', 'sign-out')) {
            return $next($request);
        }
        if (! $request->isMethodSafe()) {
            return back()->with('bad', "You see this as $person->name does: nothing is written. End that first.");
        }
        // What belongs to the person alone stays so.
        abort_if($request->is('me', 'me/*', 'watch/runs/*'), 403, "This is $person->name's own.");
        $request->attributes->set(self::BY, $steward);
        Auth::setUser($person);

        return $next($request);
    }
}
