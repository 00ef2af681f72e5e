<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Person;
use App\Models\Power;
use App\Queries\Reach;
use App\Queries\RoleLimits;
use Illuminate\Support\Facades\Auth;

/** What every page needs to know of the person who asks. */
abstract class Controller
{
    protected function person(): Person
    {
        $person = Auth::user();

        return $person instanceof Person ? $person : abort(401);
    }

    protected function reach(): Reach
    {
        return Reach::of($this->person());
    }

    /** Works on what belongs to no tenant alone, in a role that still has the power for it. */
    protected function works(Power $power): bool
    {
        return RoleLimits::narrow($this->person(), $power)->operatesAll();
    }

    /** Pages of the whole installation: not for people bound to a tenant. */
    protected function wholeOnly(): void
    {
        abort_unless($this->reach()->isWhole(), 403);
    }
}
