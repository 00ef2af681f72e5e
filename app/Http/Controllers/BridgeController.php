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
        $person = $this->person();

        return view('bridge', [
            'panels' => Bridge::of($person), 'order' => Bridge::order($person), 'away' => Bridge::away($person),
            'chart' => Bridge::chart($person),
        ]);
    }
}
