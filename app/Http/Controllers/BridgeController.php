<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Queries\Bridge;
use Illuminate\Contracts\View\View;

/** Everybody's first page: what needs them. */
final class BridgeController extends Controller
{
    public function __invoke(): View
    {
        return view('bridge', ['panels' => Bridge::of($this->person()), 'order' => Bridge::order($this->person())]);
    }
}
