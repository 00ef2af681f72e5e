<?php

declare(strict_types=1);

namespace App\Bench;

/** A signed-in visitor of the instance's own web server: keeps cookies and one connection. */
final class Browser
{
    private readonly \CurlHandle $curl;

    public function __construct(private readonly string $base)
    {
        $this->curl = curl_init();
        curl_setopt_array($this->curl, [CURLOPT_RETURNTRANSFER => true, CURLOPT_COOKIEFILE => '', CURLOPT_TIMEOUT => 30]);
    }

    public function signIn(string $name, #[\SensitiveParameter] string $password): void
    {
        preg_match('/name="_token" value="([^"]+)"/', $this->get('/sign-in'), $m);
        curl_setopt_array(
            $this->curl,
            [
                CURLOPT_URL => $this->base.'/sign-in',
                CURLOPT_POSTFIELDS => http_build_query(['_token' => $m[1] ?? '', 'sign_in' => $name, 'password' => $password]),
            ],
        );
        curl_exec($this->curl);
        curl_setopt($this->curl, CURLOPT_HTTPGET, true);
    }

    public function get(string $path): string
    {
        $url = $this->base.$path;
        $url === '' ?: curl_setopt($this->curl, CURLOPT_URL, $url);
        $body = curl_exec($this->curl);
        $status = curl_getinfo($this->curl, CURLINFO_RESPONSE_CODE);

        return is_string($body) && $status === 200 ? $body : throw new \RuntimeException("$path answers $status");
    }
}
