<?php

declare(strict_types=1);

namespace App\Links;

use Firebase\JWT\JWK;
use Firebase\JWT\JWT;
use GuzzleHttp\Client;
use GuzzleHttp\Exception\GuzzleException;
use Illuminate\Support\Facades\Cache;
use League\OAuth2\Client\Provider\Exception\IdentityProviderException;
use League\OAuth2\Client\Provider\GenericProvider;

/**
 * The identity provider of the organisation, asked by OpenID Connect Core 1.0 with the code flow and PKCE (RFC 7636). What it says of
 * somebody is believed only when it is signed by its keys, for us, now, and for the question that we asked.
 *
 * @phpstan-type Asked array{state: string, nonce: string, verifier: string, at: int, sure: bool}
 */
final readonly class Provider
{
    /** Seconds for which a sign-in that was begun holds. */
    private const HOLDS = 600;

    /** Seconds by which two clocks may differ, and for which what it published is kept. */
    private const LEEWAY = 60;

    private const KEPT = 3600;

    private const MOST = 1 << 20;

    private function __construct(private string $issuer, private string $client, private string $secret, public string $name)
    {
    }

    /** Null where none is set. */
    public static function configured(): ?self
    {
        $issuer = rtrim((string) config('harbor.oidc.issuer'), '/');

        return $issuer === '' ? null : new self(
            $issuer, (string) config('harbor.oidc.client'), (string) config('harbor.oidc.secret'), (string) config('harbor.oidc.name'),
        );
    }

    /** @return Asked what the session keeps until the answer comes */
    public static function begin(bool $sure, int $now): array
    {
        return [
            'state' => bin2hex(random_bytes(16)), 'nonce' => bin2hex(random_bytes(16)),
            'verifier' => rtrim(strtr(base64_encode(random_bytes(48)), '+/', '-_'), '='), 'at' => $now, 'sure' => $sure,
        ];
    }

    /**
     * Where the browser is sent.
     *
     * @param  Asked  $asked
     *
     * @throws Unanswered
     */
    public function address(array $asked, string $back): string
    {
        return $this->oauth($back)->getAuthorizationUrl([
            'state' => $asked['state'], 'nonce' => $asked['nonce'],
            'scope' => trim('openid profile email '.(string) config('harbor.oidc.scopes')),
            'code_challenge' => rtrim(strtr(base64_encode(hash('sha256', $asked['verifier'], true)), '+/', '-_'), '='),
            'code_challenge_method' => 'S256',
        ] + ($asked['sure'] ? ['prompt' => 'login', 'max_age' => '0'] : []));
    }

    /**
     * What the provider says of who came back.
     *
     * @param  Asked  $asked
     * @return array<string, mixed> claims, verified
     *
     * @throws Unanswered also where what it says is not to be believed
     */
    public function claims(array $asked, string $code, string $back, int $now): array
    {
        $oauth = $this->oauth($back);
        try {
            $token = $oauth->getAccessToken('authorization_code', ['code' => $code, 'code_verifier' => $asked['verifier']]);
        } catch (IdentityProviderException $e) {
            throw Unanswered::refused($this->name, mb_strimwidth($e->getMessage(), 0, 120, '…'));
        } catch (GuzzleException|\UnexpectedValueException|\InvalidArgumentException $e) {
            throw Unanswered::closed($this->name, $this->issuer, mb_strimwidth($e->getMessage(), 0, 120, '…'));
        }
        $signed = $token->getValues()['id_token'] ?? null;
        if (! is_string($signed)) {
            throw Unanswered::nonsense($this->name, 'an answer without an id_token');
        }
        $claims = $this->verified($signed, $now);
        $audience = (array) ($claims['aud'] ?? []);
        $lately = is_int($claims['auth_time'] ?? null) && $claims['auth_time'] >= $asked['at'] - self::LEEWAY;
        $fault = match (true) {
            ($claims['iss'] ?? null) !== $this->issuer() => 'a token of another issuer',
            ! in_array($this->client, $audience, true) => 'a token for somebody else',
            count($audience) > 1 && ($claims['azp'] ?? null) !== $this->client => 'a token that somebody else asked for',
            ! is_string($claims['nonce'] ?? null) || ! hash_equals($asked['nonce'], $claims['nonce']) => 'a token for another question',
            ! is_int($claims['exp'] ?? null) => 'a token without an end',
            ! is_string($claims['sub'] ?? null) || $claims['sub'] === '' => 'a token of nobody',
            $asked['sure'] && ! $lately => 'that you signed in there before, and not just now',
            default => null,
        };

        return $fault === null ? $claims : throw Unanswered::nonsense($this->name, $fault);
    }

    /**
     * By what somebody is known for good: the same subject of another issuer is somebody else.
     *
     * @param  array<string, mixed>  $claims
     */
    public function subject(array $claims): string
    {
        return hash('sha256', "$this->issuer\n".(is_string($claims['sub'] ?? null) ? $claims['sub'] : ''));
    }

    /** @param  Asked  $asked */
    public static function holds(array $asked, string $state, int $now): bool
    {
        return hash_equals($asked['state'], $state) && $now - $asked['at'] >= 0 && $now - $asked['at'] <= self::HOLDS;
    }

    /** @return array<string, mixed> */
    private function verified(string $signed, int $now): array
    {
        // A key that is not known may be a new one: its keys are read again once.
        foreach ([false, true] as $fresh) {
            try {
                JWT::$timestamp = $now;
                JWT::$leeway = self::LEEWAY;
                $keys = array_filter(
                    JWK::parseKeySet(['keys' => $this->keys($fresh)], 'RS256'),
                    static fn (\Firebase\JWT\Key $k): bool => in_array($k->getAlgorithm(), ['RS256', 'ES256', 'EdDSA'], true),
                );

                return (array) json_decode((string) json_encode(JWT::decode($signed, $keys)), true);
            } catch (\Firebase\JWT\ExpiredException) {
                throw Unanswered::nonsense($this->name, 'a token that has ended');
            } catch (\UnexpectedValueException|\DomainException|\InvalidArgumentException $e) {
                if ($fresh) {
                    throw Unanswered::nonsense($this->name, 'a token that does not hold: '.mb_strimwidth($e->getMessage(), 0, 100, '…'));
                }
            } finally {
                JWT::$timestamp = null;
            }
        }
        throw Unanswered::nonsense($this->name, 'a token that does not hold');
    }

    private function oauth(string $back): GenericProvider
    {
        $published = $this->published();

        return new GenericProvider([
            'clientId' => $this->client, 'clientSecret' => $this->secret, 'redirectUri' => $back,
            'urlAuthorize' => $published['authorization_endpoint'], 'urlAccessToken' => $published['token_endpoint'],
            'urlResourceOwnerDetails' => '',
        ], ['httpClient' => new Client([
            'timeout' => (float) config('harbor.patience'), 'connect_timeout' => (float) config('harbor.patience'),
            'allow_redirects' => false, 'verify' => true, 'proxy' => '',
        ])]);
    }

    private function issuer(): string
    {
        return $this->published()['issuer'];
    }

    /** @return array{issuer: string, authorization_endpoint: string, token_endpoint: string, jwks_uri: string} */
    private function published(): array
    {
        $address = "$this->issuer/.well-known/openid-configuration";
        $told = Cache::remember("oidc $this->issuer", self::KEPT, fn (): array => $this->read($address));
        $found = [];
        foreach (['issuer', 'authorization_endpoint', 'token_endpoint', 'jwks_uri'] as $key) {
            $text = is_string($told[$key] ?? null) ? $told[$key] : '';
            if (! self::isSafe($text)) {
                throw Unanswered::nonsense($this->name, "no \"$key\" that is reached by TLS");
            }
            $found[$key] = $text;
        }
        if (rtrim($found['issuer'], '/') !== $this->issuer) {
            throw Unanswered::nonsense($this->name, 'that it is another issuer than the one that is set');
        }

        return $found;
    }

    /** @return list<array<string, mixed>> */
    private function keys(bool $fresh): array
    {
        $address = $this->published()['jwks_uri'];
        $fresh ? Cache::forget("oidc-keys $address") : null;
        $told = Cache::remember("oidc-keys $address", self::KEPT, fn (): array => $this->read($address));

        return array_values(array_filter((array) ($told['keys'] ?? []), is_array(...)));
    }

    /** @return array<string, mixed> */
    private function read(string $address): array
    {
        $web = new Web($address, (float) config('harbor.patience'), self::MOST, ['Accept: application/json']);
        if (curl_exec($web->handle) === false || $web->isTooLong()) {
            throw Unanswered::closed($this->name, $address, rtrim(curl_error($web->handle), '.'));
        }
        $told = json_decode($web->text, true, 16);

        return $web->status() === 200 && is_array($told)
            ? $told
            : throw Unanswered::refused($this->name, "it answers {$web->status()} at $address");
    }

    /** By TLS, or on this machine. */
    private static function isSafe(string $address): bool
    {
        $parts = parse_url($address);
        $host = is_array($parts) ? trim($parts['host'] ?? '', '[]') : '';

        return is_array($parts) && $host !== '' && (
            ($parts['scheme'] ?? '') === 'https'
            || ($parts['scheme'] ?? '') === 'http' && in_array($host, ['127.0.0.1', '::1', 'localhost'], true)
        );
    }
}
