<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Acts\Engine\Acts;
use App\Api\Problem;
use App\Models\Token;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Str;
use Symfony\Component\HttpFoundation\Response;

/** A program shows its token: from here on it is the person whose token it is, and the history says by which program. */
final readonly class ByToken
{
    public function __construct(private Acts $acts)
    {
    }

    public function handle(Request $request, Closure $next): Response
    {
        $secret = (string) $request->bearerToken();
        $token = str_starts_with($secret, Token::MARK)
            ? Token::query()->with('person')->where('hash', Token::hashOf($secret))->first()
            : null;
        if ($token === null || ! $token->holds()) {
            throw Problem::of(
                401,
                'not-signed-in',
                $token === null ? 'Send Authorization: Bearer and a token; tokens are made on one\'s own page.' : 'The token has ended.',
                ['WWW-Authenticate' => 'Bearer'],
            );
        }
        if ($token->calendar) {
            throw Problem::of(403, 'calendar-only', 'This token is the address of a calendar, and opens nothing else.');
        }
        // A question across objects is too long for an address, and writes nothing.
        if (! $request->isMethodSafe() && ! $token->writes && ! $request->routeIs('api.v1.graphql')) {
            throw Problem::of(403, 'reads-only', 'This token reads only.');
        }
        $id = preg_match('/\A[\x21-\x7e]{1,60}\z/', (string) $request->header('X-Request-Id')) === 1
            ? (string) $request->header('X-Request-Id')
            : (string) Str::ulid();
        Auth::setUser($token->person);
        $request->attributes->set('token', $token);
        $this->acts->via = mb_strimwidth("token $token->name, request $id", 0, 120, '…');
        try {
            $response = $next($request);
        } finally {
            $this->acts->via = null;
        }
        $token->used();
        $response->headers->set('X-Request-Id', $id);

        return $response;
    }
}
