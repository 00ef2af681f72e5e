<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Api\Problem;
use App\Models\Token;
use Closure;
use Illuminate\Database\UniqueConstraintViolationException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\Response;

/** A request with an Idempotency-Key is carried out once: sent again within a day, it is answered as it was. */
final class AnsweredOnce
{
    private const HOURS = 24;

    /** Minutes after which nobody answers any more: the process that carried it out was ended. */
    private const LOST = 10;

    public function handle(Request $request, Closure $next): Response
    {
        $key = (string) $request->header('Idempotency-Key');
        $token = $request->attributes->get('token');
        if ($request->isMethodSafe() || $key === '' || ! $token instanceof Token) {
            return $next($request);
        }
        if (preg_match('/\A[\x21-\x7e]{1,80}\z/', $key) !== 1) {
            throw Problem::of(400, 'bad-key', 'An Idempotency-Key has 1 to 80 printable characters without blanks.');
        }
        $digest = hash('sha256', $request->method().' '.$request->getRequestUri()."\n".$request->getContent());
        DB::table('answered')->where('at', '<', now()->subHours(self::HOURS))->limit(500)->delete();
        try {
            DB::table('answered')->insert(['token_id' => $token->id, 'key' => $key, 'request' => $digest, 'at' => now()]);
        } catch (UniqueConstraintViolationException) {
            return $this->before($token, $key, $digest);
        }
        try {
            $response = $next($request);
        } catch (\Throwable $e) {
            DB::table('answered')->where('token_id', $token->id)->where('key', $key)->delete();
            throw $e;
        }
        $own = DB::table('answered')->where('token_id', $token->id)->where('key', $key);
        // What was not decided may be tried again under the same key.
        $response->getStatusCode() < 500 && $response->getStatusCode() !== 429
            ? $own->update(['status' => $response->getStatusCode(), 'body' => (string) $response->getContent()])
            : $own->delete();

        return $response;
    }

    private function before(Token $token, string $key, string $digest): JsonResponse
    {
        $row = DB::table('answered')->where('token_id', $token->id)->where('key', $key)->first();
        if ($row !== null && $row->status === null && now()->subMinutes(self::LOST)->greaterThan($row->at)) {
            throw Problem::of(
                409,
                'answer-lost',
                'A request with this key was not answered to its end. History says whether it was done; then use another key.',
            );
        }
        if ($row === null || $row->status === null) {
            throw Problem::of(
                409,
                'being-answered',
                'A request with this key is being answered. Ask again in a moment.',
                ['Retry-After' => '1'],
            );
        }
        if ($row->request !== $digest) {
            throw Problem::of(422, 'other-request', 'This Idempotency-Key was used for another request.');
        }
        $type = (int) $row->status >= 400 ? 'application/problem+json' : 'application/json';

        return JsonResponse::fromJsonString(
            (string) $row->body,
            (int) $row->status,
            ['Content-Type' => $type, 'Idempotent-Replay' => 'true'],
        );
    }
}
