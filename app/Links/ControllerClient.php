<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Outside;
use HarborPost\Core\Planning\Sides\Held;

/**
 * A system outside that holds pools and parts of pools, by HTTP and JSON: docs/controller.md says what it has to answer. TLS is verified,
 * redirects are not followed, and nothing longer than is sensible is read.
 */
final readonly class ControllerClient
{
    private const MOST = 8 << 20;

    private const PAGES = 5000;

    public function __construct(private Outside $outside, private float $patience)
    {
    }

    /**
     * What a connection needs, step by step: the first that fails is the last.
     *
     * @return list<array{what: string, ok: bool, says: string}>
     */
    public function test(): array
    {
        $parts = parse_url($this->outside->address);
        $host = is_array($parts) ? trim($parts['host'] ?? '', '[]') : '';
        $tls = is_array($parts) && ($parts['scheme'] ?? '') === 'https';
        $port = is_array($parts) ? $parts['port'] ?? ($tls ? 443 : 80) : 0;
        $steps = [];
        $step = static function (string $what, bool $ok, string $says) use (&$steps): bool {
            $steps[] = ['what' => $what, 'ok' => $ok, 'says' => $says];

            return $ok;
        };
        $address = Web::resolve($host);
        if (! $step('name', $address !== null, $address === null ? "$host has no address" : "$host is $address")) {
            return $steps;
        }
        $peer = str_contains((string) $address, ':') ? "[$address]" : (string) $address;
        $socket = @stream_socket_client("tcp://$peer:$port", $code, $why, $this->patience);
        if (! $step('port', $socket !== false, $socket === false ? "port $port: ".((string) $why ?: 'nobody answers')
            : "port $port answers")) {
            return $steps;
        }
        is_resource($socket) ? fclose($socket) : null;
        try {
            [$status, $body] = $this->call('GET', '/api');
        } catch (Unanswered $e) {
            $step($tls ? 'certificate' : 'answer', false, $e->getMessage());

            return $steps;
        }
        $step('certificate', true, $tls ? 'its certificate is good' : 'it speaks without TLS');
        if (! $step('credentials', $status !== 401 && $status !== 403, $status === 401 || $status === 403
            ? "it refuses the token ($status)" : 'it takes the token')) {
            return $steps;
        }
        $system = is_array($body) && is_string($body['system'] ?? null) ? $body['system'] : '';
        if (! $step('system', $status === 200 && $system === 'pools', $system === 'pools' ? 'it holds pools'
            : "it answers $status, and is not what is meant")) {
            return $steps;
        }
        $version = is_array($body) ? $body['version'] ?? null : null;
        if (! $step('version', $version === 1, $version === 1 ? 'version 1' : 'it speaks version '
            .json_encode($version).', and 1 is meant')) {
            return $steps;
        }
        $may = is_array($body) ? (array) ($body['may'] ?? []) : [];
        $step('rights', in_array('read', $may, true), 'it may '.implode(' and ', array_filter($may, is_string(...))));

        return $steps;
    }

    /**
     * @return \Generator<int, Held> all that it holds
     *
     * @throws Unanswered
     */
    public function all(): \Generator
    {
        $after = '';
        for ($page = 0; $page < self::PAGES; $page++) {
            [$status, $body] = $this->call('GET', '/api/pools?after='.rawurlencode($after));
            if ($status !== 200 || ! is_array($body) || ! is_array($body['pools'] ?? null)) {
                throw Unanswered::refused($this->outside->name, "it answers $status to the question for its pools");
            }
            foreach ($body['pools'] as $pool) {
                yield self::held($pool);
            }
            $next = $body['next'] ?? null;
            if (! is_string($next)) {
                return;
            }
            if ($next <= $after) {
                throw Unanswered::refused($this->outside->name, 'its pages lead in a circle');
            }
            $after = $next;
        }
        throw Unanswered::refused($this->outside->name, 'it has no end');
    }

    /**
     * Writes one and reads it back.
     *
     * @return Held as it stands there now
     *
     * @throws Unanswered
     */
    public function put(Held $held): Held
    {
        [$status, $body] = $this->call('PUT', '/api/pools/'.rawurlencode($held->id), [
            'prefix' => $held->prefix, 'pool' => $held->groups, 'name' => $held->values['name'][0] ?? '',
            'gateway' => $held->values['gateway'][0] ?? '', 'resolvers' => $held->values['resolvers'] ?? [],
            'leases' => $held->values['leases'] ?? [],
        ]);
        if ($status !== 200 && $status !== 201) {
            throw Unanswered::refused($this->outside->name, is_array($body) && is_string($body['error'] ?? null) ? $body['error']
                : "it answers $status");
        }
        [$status, $body] = $this->call('GET', '/api/pools/'.rawurlencode($held->id));
        if ($status !== 200) {
            throw Unanswered::refused($this->outside->name, "read back, it answers $status");
        }

        return self::held($body);
    }

    /** @throws Unanswered */
    public function cut(string $id): void
    {
        [$status, $body] = $this->call('DELETE', '/api/pools/'.rawurlencode($id));
        if ($status !== 204 && $status !== 404) {
            throw Unanswered::refused($this->outside->name, is_array($body) && is_string($body['error'] ?? null) ? $body['error']
                : "it answers $status");
        }
    }

    private static function held(mixed $pool): Held
    {
        $pool = is_array($pool) ? $pool : [];
        $text = static fn (string $key): string => is_string($pool[$key] ?? null) ? mb_strimwidth($pool[$key], 0, 120) : '';
        $list = static fn (string $key): array => array_values(array_filter((array) ($pool[$key] ?? []), is_string(...)));
        $one = static fn (string $value): array => $value === '' ? [] : [$value];

        return new Held($text('id'), $text('prefix'), ($pool['pool'] ?? false) === true, [
            'name' => $one($text('name')), 'gateway' => $one($text('gateway')), 'resolvers' => $list('resolvers'),
            'leases' => $list('leases'),
        ]);
    }

    /**
     * @param  non-empty-string  $method
     * @param  ?array<string, mixed>  $body
     * @return array{int, mixed} status, and what was answered
     *
     * @throws Unanswered
     */
    private function call(string $method, string $path, ?array $body = null): array
    {
        $web = new Web(
            rtrim($this->outside->address, '/').$path,
            $this->patience,
            self::MOST,
            ["Authorization: Bearer {$this->outside->token}", 'Content-Type: application/json', 'Expect:'],
            [CURLOPT_CUSTOMREQUEST => $method] + ($body === null ? [] : [CURLOPT_POSTFIELDS => json_encode($body, JSON_THROW_ON_ERROR)]),
        );
        curl_exec($web->handle);
        $code = curl_errno($web->handle);
        $why = curl_error($web->handle);
        if ($code === CURLE_OPERATION_TIMEDOUT) {
            throw Unanswered::silence($this->outside->name, $this->outside->address, $this->patience);
        }
        if ($code !== CURLE_OK) {
            throw $web->isTooLong()
                ? Unanswered::nonsense($this->outside->name, 'more than '.(self::MOST >> 20).' MB at once')
                : Unanswered::closed($this->outside->name, $this->outside->address, $why !== '' ? $why : 'the connection broke');
        }

        return [$web->status(), json_decode($web->text, true)];
    }
}
