<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Person;
use App\Queries\Reach;
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

    /** Pages of the whole installation: not for people bound to a tenant. */
    protected function wholeOnly(): void
    {
        abort_unless($this->reach()->isWhole(), 403);
    }
}
