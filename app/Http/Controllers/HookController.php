<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Hook;
use App\Models\Nouns;
use App\Models\Role;
use App\Shipping\Hooks;
use Illuminate\Contracts\View\View;
use Illuminate\Http\RedirectResponse;
use Illuminate\Support\Facades\DB;

/** Systems outside that are told of what happens: which, how far they are, and what they answered. */
final class HookController extends Controller
{
    private const LOG = 30;

    public function index(): View
    {
        $this->steward();
        $last = (int) DB::table('outbox')->max('id');

        return view('ship.hooks', [
            'hooks' => Hook::query()->with('site')->orderBy('name')->get(), 'states' => DB::table('hook_states')->get()
                ->keyBy('hook_id'), 'last' => $last,
            'log' => DB::table('hook_deliveries')->orderByDesc('id')->limit(self::LOG)->get(), 'kinds' => Nouns::words(),
        ]);
    }

    public function test(string $hook): RedirectResponse
    {
        $this->steward();
        $answer = Hooks::make()->test(Hook::query()->findOrFail($hook));
        $took = "in $answer[milliseconds] ms";

        return $answer['status'] !== null && $answer['status'] < 300
            ? back()->with('done', "It answered $answer[status] $took.")
            : back()->with('bad', 'The test call did not arrive: '.($answer['status'] ?? 'no answer')." $took. $answer[says]");
    }

    public function again(string $hook): RedirectResponse
    {
        $this->steward();
        Hooks::again(Hook::query()->findOrFail($hook));

        return back()->with('done', 'It is tried again within a minute.');
    }

    private function steward(): void
    {
        abort_unless($this->person()->does(Role::Steward) && ! $this->person()->isBound(), 403);
    }
}
