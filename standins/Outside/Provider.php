<?php

declare(strict_types=1);

namespace HarborPost\Standins\Outside;

use HarborPost\Standins\Control;
use HarborPost\Standins\Mode;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpServer;

/**
 * A simulated identity provider (OpenID Connect Core 1.0, code flow with PKCE): one chooses who one is, nobody is asked for a password.
 * Told to lie, it answers for another question than the one that was asked.
 */
final class Provider
{
    private const MOST = 1 << 16;

    /** Seconds for which a code holds. */
    private const HOLDS = 60;

    private readonly Control $control;

    private readonly \OpenSSLAsymmetricKey $key;

    /** @var array<string, array{sub: string, name: string, groups: list<string>, amr: list<string>}> by the name that people know */
    private array $people = [];

    /** @var array<string, array<string, string>> code → what was asked */
    private array $codes = [];

    public function __construct(
        private readonly LoopInterface $loop,
        private readonly int $port,
        int $control,
        string $token,
        string $directory,
        private readonly string $client = 'harbor-post',
    ) {
        $file = "$directory/key.pem";
        if (! is_file($file)) {
            $made = openssl_pkey_new(['private_key_type' => OPENSSL_KEYTYPE_RSA, 'private_key_bits' => 2048]);
            $made === false || ! openssl_pkey_export($made, $text) ? throw new \RuntimeException('no key') : null;
            touch($file);
            chmod($file, 0600);
            file_put_contents($file, $text);
        }
        $this->key = openssl_pkey_get_private((string) file_get_contents($file)) ?: throw new \RuntimeException("$file is no key");
        $store = "$directory/people.json";
        $this->people = is_file($store) ? (array) json_decode((string) file_get_contents($store), true) : [];
        (new TcpServer("127.0.0.1:$port", $loop))->on('connection', fn (ConnectionInterface $c) => $this->serve($c));
        $this->control = new Control($loop, $control, $token, [
            'status' => fn (): array => ['people' => count($this->people)],
            'people' => function (array $m) use ($store): array {
                $this->people = [];
                foreach (is_array($m['people'] ?? null) ? $m['people'] : [] as $name => $one) {
                    $texts = static fn (mixed $list): array => array_values(array_filter(is_array($list) ? $list : [], is_string(...)));
                    $this->people[(string) $name] = [
                        'sub' => is_string($one['sub'] ?? null) ? $one['sub'] : (string) $name,
                        'name' => is_string($one['name'] ?? null) ? $one['name'] : (string) $name, 'groups' => $texts($one['groups'] ?? []),
                        'amr' => $texts($one['amr'] ?? ['pwd']),
                    ];
                }
                file_put_contents($store, json_encode($this->people));

                return ['people' => count($this->people)];
            },
        ]);
    }

    private function issuer(): string
    {
        return "http://127.0.0.1:$this->port";
    }

    private function serve(ConnectionInterface $connection): void
    {
        $buffer = '';
        $connection->on('data', function (string $data) use ($connection, &$buffer): void {
            $buffer .= $data;
            $head = strpos($buffer, "\r\n\r\n");
            if (strlen($buffer) > self::MOST || $head === false || $this->control->mode === Mode::Silent) {
                strlen($buffer) > self::MOST ? $connection->close() : null;

                return;
            }
            $length = preg_match('/^Content-Length: *(\d+)\r$/mi', substr($buffer, 0, $head + 2), $m) === 1 ? (int) $m[1] : 0;
            if (strlen($buffer) < $head + 4 + $length) {
                return;
            }
            [$status, $type, $body] = $this->control->mode === Mode::Refusing
                ? ['503 x', 'application/json', '{"error": "told to refuse"}']
                : $this->answer(substr($buffer, 0, $head), substr($buffer, $head + 4, $length));
            $more = str_starts_with($status, '302') ? "Location: $body\r\n" : '';
            $body = $more === '' ? $body : '';
            $send = fn () => $connection->end("HTTP/1.1 $status\r\nContent-Type: $type\r\n{$more}Cache-Control: no-store\r\n"
                .'Content-Length: '.strlen($body)."\r\nConnection: close\r\n\r\n$body");
            $this->control->mode === Mode::Slow ? $this->loop->addTimer(Mode::DELAY, $send) : $send();
        });
    }

    /** @return array{string, string, string} status, type, body or where to go */
    private function answer(string $head, string $body): array
    {
        preg_match('~\A([A-Z]+) ([^ ?]+)(?:\?(\S*))? ~', $head, $m);
        parse_str($m[3] ?? '', $asked);
        /** @var array<string, string> $asked */
        $asked = array_filter($asked, is_string(...));
        $json = static fn (array $told, string $status = '200 OK'): array => [
            $status, 'application/json', json_encode($told, JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR),
        ];

        return match (($m[1] ?? '').' '.($m[2] ?? '')) {
            'GET /.well-known/openid-configuration' => $json([
                'issuer' => $this->issuer(), 'authorization_endpoint' => "{$this->issuer()}/authorize",
                'token_endpoint' => "{$this->issuer()}/token", 'jwks_uri' => "{$this->issuer()}/keys",
                'response_types_supported' => ['code'], 'subject_types_supported' => ['public'],
                'id_token_signing_alg_values_supported' => ['RS256'], 'code_challenge_methods_supported' => ['S256'],
            ]),
            'GET /keys' => $json(['keys' => [$this->published()]]),
            'GET /authorize' => $this->choose($asked),
            'GET /as' => $this->chosen($asked),
            'POST /token' => $this->token($body, $json),
            default => $json(['error' => 'nothing is here'], '404 x'),
        };
    }

    /** @return array<string, string> */
    private function published(): array
    {
        $rsa = (array) (openssl_pkey_get_details($this->key) ?: [])['rsa'];

        return [
            'kty' => 'RSA', 'use' => 'sig', 'alg' => 'RS256', 'kid' => 'one', 'n' => self::text((string) $rsa['n']),
            'e' => self::text((string) $rsa['e']),
        ];
    }

    /**
     * @param  array<string, string>  $asked
     * @return array{string, string, string}
     */
    private function choose(array $asked): array
    {
        $fault = match (true) {
            ($asked['client_id'] ?? '') !== $this->client => 'this client is not known',
            ($asked['response_type'] ?? '') !== 'code' => 'only codes are given',
            ($asked['code_challenge_method'] ?? '') !== 'S256' || ($asked['code_challenge'] ?? '') === '' => 'PKCE is needed',
            preg_match('~\Ahttps?://127\.0\.0\.1:\d+/~', $asked['redirect_uri'] ?? '') !== 1 => 'that is no place to go back to',
            default => null,
        };
        if ($fault !== null) {
            return ['400 x', 'text/plain', "$fault\n"];
        }
        $rows = '';
        foreach ($this->people as $name => $one) {
            $to = htmlspecialchars('/as?'.http_build_query(['who' => $name] + $asked));
            $rows .= '<li><a href="'.$to.'">'.htmlspecialchars("$one[name] ($name)").'</a></li>';
        }
        $no = htmlspecialchars('/as?'.http_build_query(['who' => ''] + $asked));

        return ['200 OK', 'text/html; charset=utf-8', '<!doctype html><html lang="en"><link rel="icon" href="data:,">'
            .'<title>Kittiwake sign-in (stand-in)</title>'
            ."<h1>Kittiwake sign-in</h1><p>A stand-in: choose who you are.</p><ul>$rows</ul><p><a href=\"$no\">Nobody of these</a></p>"];
    }

    /**
     * @param  array<string, string>  $asked
     * @return array{string, string, string}
     */
    private function chosen(array $asked): array
    {
        $back = $asked['redirect_uri'] ?? '';
        $one = $this->people[$asked['who'] ?? ''] ?? null;
        $told = ['state' => $asked['state'] ?? ''];
        if ($one === null) {
            $told += ['error' => 'access_denied'];
        } else {
            $code = bin2hex(random_bytes(16));
            $this->codes[$code] = ['at' => (string) time()] + $asked;
            $told += ['code' => $code];
        }

        return ['302 Found', 'text/plain', $back.(str_contains($back, '?') ? '&' : '?').http_build_query($told)];
    }

    /**
     * @param  \Closure(array<string, mixed>, string=): array{string, string, string}  $json
     * @return array{string, string, string}
     */
    private function token(string $body, \Closure $json): array
    {
        parse_str($body, $given);
        $given = array_map(static fn (mixed $v): string => is_string($v) ? $v : '', $given);
        $asked = $this->codes[$given['code'] ?? ''] ?? null;
        unset($this->codes[$given['code'] ?? '']);
        $one = $this->people[$asked['who'] ?? ''] ?? null;
        if (
            $asked === null || $one === null || time() - (int) $asked['at'] > self::HOLDS || ($given['client_id'] ?? '') !== $this->client
            || ($given['redirect_uri'] ?? '') !== ($asked['redirect_uri'] ?? '')
            || ! hash_equals($asked['code_challenge'] ?? '', self::text(hash('sha256', $given['code_verifier'] ?? '', true)))
        ) {
            return $json(['error' => 'invalid_grant'], '400 x');
        }
        $now = time();
        $claims = [
            'iss' => $this->issuer(), 'aud' => $this->client, 'sub' => $one['sub'], 'iat' => $now, 'exp' => $now + 300, 'auth_time' => $now,
            'nonce' => $this->control->mode === Mode::Wrong ? 'another' : ($asked['nonce'] ?? ''),
            'preferred_username' => $asked['who'] ?? '', 'name' => $one['name'], 'groups' => $one['groups'], 'amr' => $one['amr'],
        ];
        $head = ['alg' => 'RS256', 'typ' => 'JWT', 'kid' => 'one'];
        $signed = self::text((string) json_encode($head)).'.'.self::text((string) json_encode($claims));
        openssl_sign($signed, $signature, $this->key, OPENSSL_ALGO_SHA256);

        return $json([
            'access_token' => bin2hex(random_bytes(16)), 'token_type' => 'Bearer', 'expires_in' => 300,
            'id_token' => $signed.'.'.self::text($signature),
        ]);
    }

    private static function text(string $bytes): string
    {
        return rtrim(strtr(base64_encode($bytes), '+/', '-_'), '=');
    }
}
