<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Api\Problem;
use App\Models\Token;
use Closure;
use Illuminate\Database\Query\Builder;
use Illuminate\Database\UniqueConstraintViolationException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Symfony\Component\HttpFoundation\Response;

/**
 * A request with an Idempotency-Key is carried out once: sent again within a day, it is answered as it was.
 *
 * The answer of what was committed is written in the same transaction (Answering), so there is none without the other. One that was not
 * answered for a while, because its process was ended, is taken over: from then on the first can commit nothing any more.
 */
final class AnsweredOnce
{
    private const HOURS = 24;

    /** Seconds after which a request that is still being answered is taken over. */
    private const TAKEN_OVER = 10;

    /** Minutes after which nobody answers any more what cannot be taken over. */
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
        $holder = bin2hex(random_bytes(8));
        try {
            DB::table('answered')->insert([
                'token_id' => $token->id, 'key' => $key, 'request' => $digest, 'holder' => $holder, 'at' => now(),
            ]);
        } catch (UniqueConstraintViolationException) {
            $before = $this->before($request, $token, $key, $digest, $holder);
            if ($before !== null) {
                return $before;
            }
        }
        $own = DB::table('answered')->where('token_id', $token->id)->where('key', $key)->where('holder', $holder)->whereNull('status');

        return $this->answered($request, $next, $own);
    }

    private function answered(Request $request, Closure $next, Builder $own): Response
    {
        $request->attributes->set('answering', new Answering(clone $own));
        try {
            $response = $next($request);
        } catch (\Throwable $e) {
            rescue(fn () => (clone $own)->delete(), report: false);
            throw $e;
        }
        // What was not decided may be tried again under the same key.
        rescue(static fn () => $response->getStatusCode() < 500 && $response->getStatusCode() !== 429
            ? $own->update(['status' => $response->getStatusCode(), 'body' => (string) $response->getContent()])
            : $own->delete());

        return $response;
    }

    /** The answer that was given before; null where the request is carried out anew under the same key. */
    private function before(Request $request, Token $token, string $key, string $digest, string $holder): ?JsonResponse
    {
        $of = DB::table('answered')->where('token_id', $token->id)->where('key', $key);
        $row = (clone $of)->useWritePdo()->first();
        if ($row !== null && $row->request !== $digest) {
            throw Problem::of(422, 'other-request', 'This Idempotency-Key was used for another request.');
        }
        $open = $row !== null && $row->status === null;
        // Our own: it was written, and the answer to that was lost.
        if ($open && $row->holder === $holder) {
            return null;
        }
        if ($open && now()->subSeconds(self::TAKEN_OVER)->greaterThan($row->at) && $request->json('draft') !== true) {
            $taken = $of->where('holder', $row->holder)->whereNull('status')->update(['holder' => $holder, 'at' => now()]);

            return $taken > 0 ? null : $this->before($request, $token, $key, $digest, $holder);
        }
        if ($open && now()->subMinutes(self::LOST)->greaterThan($row->at)) {
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
        $type = (int) $row->status >= 400 ? 'application/problem+json' : 'application/json';

        return JsonResponse::fromJsonString(
            (string) $row->body,
            (int) $row->status,
            ['Content-Type' => $type, 'Idempotent-Replay' => 'true'],
        );
    }
}
