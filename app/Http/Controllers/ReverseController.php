<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Power;
use App\Models\Zone;
use App\Queries\Choices;
use App\Queries\ReverseGaps;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Prefix;
use Illuminate\Contracts\View\View;
use Illuminate\Http\Request;

/** Reverse zones from prefixes: what a prefix takes, and the live subnets that have none. */
final class ReverseController extends Controller
{
    public function __invoke(Request $request): View
    {
        $this->wholeOnly();
        $text = trim($request->string('nets')->toString());
        $net = Prefix::tryParse($text);
        $there = fn (string $name): ?Zone => Zone::query()->with('view')->where('name', $name)->first();

        return view('name.reverse', [
            'gaps' => ReverseGaps::of($this->reach()), 'text' => $text, 'net' => $net, 'stay' => $request->string('stay')->toString(),
            'choices' => new Choices($this->reach()), 'may' => $this->works(Power::NameService),
            'exact' => $net === null
                ? []
                : array_map(fn ($n): array => [rtrim((string) $n, '.'), $there((string) $n->lower())], ReverseName::zones($net)),
            'around' => $net === null ? null : rtrim((string) ReverseName::around($net), '.'),
        ]);
    }
}
