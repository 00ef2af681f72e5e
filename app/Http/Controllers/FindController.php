<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Queries\Find;
use App\Queries\FindCommands;
use App\Queries\PrefixFacts;
use App\Queries\QuickFind;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

final class FindController extends Controller
{
    public function __invoke(Request $request): View
    {
        $text = self::typed($request);
        $find = Find::text($text, $this->reach());

        return view(
            'find.show',
            [
                'q' => $request->string('q')->toString(),
                'find' => $find,
                'commands' => array_filter(
                    FindCommands::of($text, $this->reach(), $this->person()),
                    static fn (array $c): bool => $c['link'] !== null,
                ),
                'facts' => $find->net === null ? null : PrefixFacts::of($find->net),
            ],
        );
    }

    /** While one types: the nearest hits and what can be done in plain words. */
    public function quick(Request $request): View
    {
        $text = self::typed($request);
        $commands = FindCommands::of($text, $this->reach(), $this->person());

        return view(
            'find.quick',
            ['q' => $text, 'commands' => $commands, 'hits' => mb_strlen($text) < 2 ? [] : QuickFind::hits($text, $this->reach())],
        );
    }

    private static function typed(Request $request): string
    {
        return trim(mb_substr($request->string('q')->toString(), 0, 200));
    }
}
