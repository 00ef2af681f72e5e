<?php

declare(strict_types=1);

namespace App\Api;

use App\Acts\Engine\BadInput;
use App\Acts\Engine\Note;
use App\Acts\Engine\Outcome;
use App\Database\Contention;
use App\Links\Unanswered;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Http\JsonResponse;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;

/** What did not go, as problem details (RFC 9457): in general, and by field with a JSON Pointer (RFC 6901). */
final class Problem extends \RuntimeException
{
    private const NAMES = [
        401 => 'not-signed-in', 403 => 'not-allowed', 404 => 'not-found', 405 => 'method', 413 => 'too-large', 429 => 'too-many',
        503 => 'unavailable',
    ];

    private const WORDS = [
        403 => 'Not available to you.', 404 => 'Nothing is here, or it is not available to you.',
        405 => 'This address takes another method.',
        413 => 'What was sent is too large.', 429 => 'Too many requests; wait as Retry-After says.', 503 => 'Not now; try again.',
    ];

    /** @param  list<array<string, mixed>>  $errors */
    private function __construct(
        public readonly int $status,
        public readonly string $name,
        string $detail,
        public readonly array $errors = [],
        /** @var array<string, string> */
        public readonly array $headers = [],
    ) {
        parent::__construct($detail);
    }

    /** Whatever went wrong, told to a program: nothing of the inside is. */
    public static function from(\Throwable $e): self
    {
        $status = $e instanceof HttpExceptionInterface ? $e->getStatusCode() : 500;

        return match (true) {
            $e instanceof self => $e,
            $e instanceof ModelNotFoundException => self::of(404, 'not-found', 'Nothing is here, or it is not available to you.'),
            $e instanceof BadInput => self::input($e),
            $e instanceof Unanswered => self::of(502, 'server-silent', $e->getMessage()),
            Contention::isFull($e) => self::of(507, 'disk-full', 'The disk is full: nothing was written. Whoever keeps this makes room.'),
            Contention::isAway($e) => self::of(503, 'unavailable', 'The database is away. Try again.', ['Retry-After' => '5']),
            $e instanceof HttpExceptionInterface => self::of(
                $status,
                self::NAMES[$status] ?? 'not-done',
                $e->getMessage() !== '' && $status < 500 && $status !== 404 ? $e
                    ->getMessage() : (self::WORDS[$status] ?? 'It was not done.'),
                array_map(strval(...), array_intersect_key($e->getHeaders(), ['Retry-After' => 1, 'Allow' => 1])),
            ),
            default => self::of(500, 'fault', 'Something is wrong here; it is in the log. Nothing was written unless an answer said so.'),
        };
    }

    /** @param  array<string, string>  $headers */
    public static function of(int $status, string $name, string $detail, array $headers = []): self
    {
        return new self($status, $name, $detail, [], $headers);
    }

    /** @param  list<string>  $candidates */
    public static function ambiguous(string $text, array $candidates): self
    {
        return new self(
            409,
            'ambiguous',
            "\"$text\" may be several",
            array_map(static fn (string $c): array => ['candidate' => $c], $candidates),
        );
    }

    /** In one line, with whatever may be meant. */
    public function words(): string
    {
        $may = array_filter(array_column($this->errors, 'candidate'), is_string(...));

        return $this->getMessage().($may === [] ? '' : ': '.implode('; ', $may));
    }

    public static function input(BadInput $fault, string $at = ''): self
    {
        return new self(
            422,
            'bad-input',
            $fault->getMessage(),
            array_map(static fn (Note $n): array => self::error($n, $at), $fault->notes),
        );
    }

    public static function outcome(Outcome $outcome, string $at = ''): self
    {
        $block = $outcome->block();
        $status = match (true) {
            $block?->code === 'not-allowed', $block?->code === 'row-not-yours', $outcome->needs !== [] => 403,
            $block?->code === 'changed-meanwhile' => 412,
            $outcome->wantsReason => 422,
            default => 409,
        };
        $name = $outcome->needs !== [] ? 'needs-agreement' : ($outcome->wantsReason ? 'needs-reason' : ($block->code ?? 'not-written'));

        return new self(
            $status,
            $name,
            $block->message ?? (string) $outcome->trouble,
            array_values(array_map(
                static fn (Note $n): array => self::error($n, $at),
                array_filter(
                    $outcome->notes(),
                    static fn (Note $n): bool => $n->blocks() || $outcome->wantsReason && $n->warns(),
                ),
            )),
        );
    }

    /** @return array<string, mixed> */
    private static function error(Note $note, string $at): array
    {
        return array_filter([
            'pointer' => $note->field === null ? null : "$at/input/$note->field", 'code' => $note->code, 'detail' => $note->message,
            'fix' => $note->why, 'standard' => $note->standard, 'offer' => $note->offer,
        ], static fn (mixed $v): bool => $v !== null && $v !== '');
    }

    public function response(): JsonResponse
    {
        $body = [
            'type' => "urn:harbor-post:problem:$this->name",
            'title' => ucfirst(str_replace('-', ' ', $this->name)),
            'status' => $this->status,
        ]
            + ['detail' => $this->getMessage()] + ($this->errors === [] ? [] : ['errors' => $this->errors]);

        return new JsonResponse(
            $body,
            $this->status,
            ['Content-Type' => 'application/problem+json'] + $this->headers,
            JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE,
        );
    }
}
