<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Queries\Find;
use App\Queries\PrefixFacts;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

final class FindController extends Controller
{
    public function __invoke(Request $request): View
    {
        $find = Find::text(mb_substr($request->string('q')->toString(), 0, 200), $this->reach());

        return view(
            'find.show',
            [
                'q' => $request->string('q')->toString(),
                'find' => $find,
                'facts' => $find->net === null ? null : PrefixFacts::of($find->net),
            ],
        );
    }
}
