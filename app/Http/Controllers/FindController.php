<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Pages\Pages;
use App\Queries\Find;
use App\Queries\FindCommands;
use App\Queries\PrefixFacts;
use App\Queries\QuickFind;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;

final class FindController extends Controller
{
    public function __invoke(Request $request): View|RedirectResponse
    {
        $text = self::typed($request);
        $just = $request->boolean('enter') ? $this->just($text) : null;
        if ($just !== null) {
            return redirect($just);
        }
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

    /** Where Enter leads: the page of the one thing that is just what was typed, whether the list of hits had come by then or not. */
    private function just(string $text): ?string
    {
        $same = static fn (string $words): bool => mb_strtolower($words) === mb_strtolower($text);
        $pages = array_filter(array_map(
            static fn (array $c): ?string => $same($c['words']) ? $c['link'] : null,
            FindCommands::of($text, $this->reach(), $this->person()),
        ));
        foreach (mb_strlen($text) < 2 ? [] : QuickFind::hits($text, $this->reach()) as $hit) {
            $pages[] = $hit['exact'] ? Pages::of($hit['of']) : null;
        }
        $pages = array_values(array_unique(array_filter($pages)));

        return count($pages) === 1 ? $pages[0] : null;
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
