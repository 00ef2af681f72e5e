<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Server;

/**
 * An agent that a site put in front of its server (docs/agent.md): HTTP and JSON, over TLS but on loopback, with a token. It says what it
 * can do, and is asked for nothing else.
 */
final class AgentWire implements Wire
{
    private const MOST = 64 << 20;

    private const VERSION = 1;

    /** What an agent may say that it does; what each is needed for is in docs/agent.md. */
    public const KNOWN = ['scopes', 'v6', 'classes', 'link', 'probe', 'pairs', 'names', 'leases', 'changes', 'grant', 'end', 'packets'];

    /** @var ?list<string> */
    private ?array $does = null;

    public function __construct(private readonly Server $server, private readonly float $patience)
    {
    }

    public static function isAgent(?string $control): bool
    {
        return $control !== null && str_contains($control, '://');
    }

    public function tell(string $op, array $message): array
    {
        [$status, $decoded] = $this->send($op, json_encode((object) $message, JSON_THROW_ON_ERROR));
        $why = is_string($decoded['detail'] ?? null) ? $decoded['detail'] : 'an error';

        return match (true) {
            $status === 200 => $decoded,
            $status === 401, $status === 403 => throw Unanswered::refused($this->server->name, 'it does not take the token'),
            $status === 404 => throw Unanswered::refused($this->server->name, "its agent has nothing at \"$op\""),
            $status >= 400 && $status < 500 => ['error' => $why] + $decoded,
            default => throw Unanswered::refused($this->server->name, "its agent answers $status: $why"),
        };
    }

    public function does(): array
    {
        if ($this->does === null) {
            [$status, $told] = $this->send('', null);
            if ($status !== 200) {
                $why = $status === 401 ? 'it does not take the token' : "its agent answers $status";
                throw Unanswered::refused($this->server->name, $why);
            }
            if (($told['version'] ?? null) !== self::VERSION) {
                throw Unanswered::nonsense($this->server->name, 'an agent of another version than '.self::VERSION);
            }
            $this->does = array_values(array_filter((array) ($told['does'] ?? []), is_string(...)));
        }

        return $this->does;
    }

    /** @return array{int, array<string, mixed>} */
    private function send(string $op, ?string $body): array
    {
        $base = rtrim((string) $this->server->control, '/');
        $headers = [
            "Authorization: Bearer {$this->server->token}", 'Accept: application/json', 'Content-Type: application/json', 'Expect:',
        ];
        $web = new Web($base.'/v1'.($op === '' ? '' : "/$op"), $this->patience, self::MOST, $headers, $body === null ? [] : [
            CURLOPT_POST => true, CURLOPT_POSTFIELDS => $body,
        ]);
        if (curl_exec($web->handle) === false || $web->isTooLong()) {
            throw match (true) {
                $web->isTooLong() => Unanswered::nonsense($this->server->name, 'more than '.(self::MOST >> 20).' MB'),
                curl_errno($web->handle) === CURLE_OPERATION_TIMEDOUT => Unanswered::silence($this->server->name, $base, $this->patience),
                default => Unanswered::closed($this->server->name, $base, rtrim(curl_error($web->handle), '.')),
            };
        }
        $decoded = json_decode($web->text, true, 64);

        return $web->status() === 200 && ! is_array($decoded)
            ? throw Unanswered::nonsense($this->server->name, 'no JSON')
            : [$web->status(), is_array($decoded) ? $decoded : []];
    }
}
