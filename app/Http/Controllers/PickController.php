<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Queries\Picks;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** What a picker offers while one types. */
final class PickController extends Controller
{
    public function __invoke(Request $request, string $kind): JsonResponse
    {
        $picks = new Picks($this->reach());
        $only = $request->query('only');

        return response()->json($picks->like($kind, $request->string('q')->toString(), is_string($only) ? $only : ''));
    }
}
