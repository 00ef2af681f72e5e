<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Token;
use App\Queries\Due;
use HarborPost\Core\Watch\Calendar;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;

/** What is due as an iCalendar object: a file to take, and a feed at an address that a calendar asks again and again. */
final class CalendarController extends Controller
{
    public function file(): Response
    {
        $this->wholeOnly();

        return $this->due(['Content-Disposition' => 'attachment; filename="harbor-post.ics"']);
    }

    /** Calendars send no token in a header: the address is the secret, is for this alone, and is no address once it has ended. */
    public function feed(string $secret): Response
    {
        $token = Token::query()->with('person')->where('hash', Token::hashOf($secret))->where('calendar', true)->first();
        abort_if($token === null || ! $token->holds(), 404);
        Auth::setUser($token->person);
        $this->wholeOnly();
        $token->used();

        return $this->due(['Cache-Control' => 'private, max-age=300', 'Referrer-Policy' => 'no-referrer']);
    }

    /** @param  array<string, string>  $more  headers */
    private function due(array $more): Response
    {
        $events = array_map(static fn (array $e): array => [
            'id' => $e['id'], 'at' => $e['at'], 'title' => $e['title'], 'words' => $e['words'], 'link' => url($e['link']),
        ], Due::next($this->person()));

        return response(
            Calendar::of('Harbor Post: due', $events, now()->toDateTimeImmutable()),
            200,
            ['Content-Type' => 'text/calendar; charset=utf-8'] + $more,
        );
    }
}
