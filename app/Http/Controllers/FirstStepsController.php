<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Queries\FirstSteps;
use Illuminate\Contracts\View\View;

/** What a new installation still needs. */
final class FirstStepsController extends Controller
{
    public function __invoke(): View
    {
        $this->wholeOnly();

        return view('first-steps', ['steps' => FirstSteps::all()]);
    }
}
