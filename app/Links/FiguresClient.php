<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\Server;

/** Reads what servers measure of themselves, many at once: HTTP without redirects, TLS verified, nothing longer than is sensible. */
final readonly class FiguresClient
{
    private const MOST = 4 << 20;

    private const AT_ONCE = 32;

    public function __construct(private float $patience)
    {
    }

    /**
     * @param  iterable<Server>  $servers  that have an address for it
     * @return \Generator<string, array{text: ?string, says: string}> server → what it told, or why it did not
     */
    public function read(iterable $servers): \Generator
    {
        $batch = [];
        foreach ($servers as $server) {
            $batch[] = $server;
            if (count($batch) === self::AT_ONCE) {
                yield from $this->together($batch);
                $batch = [];
            }
        }
        yield from $this->together($batch);
    }

    /**
     * @param  list<Server>  $servers
     * @return array<string, array{text: ?string, says: string}>
     */
    private function together(array $servers): array
    {
        $multi = curl_multi_init();
        $handles = $texts = [];
        foreach ($servers as $server) {
            $id = $server->id;
            $texts[$id] = '';
            $handle = curl_init((string) $server->figuresAt());
            if ($handle === false) {
                continue;
            }
            curl_setopt_array($handle, [
                CURLOPT_PROTOCOLS => CURLPROTO_HTTP | CURLPROTO_HTTPS, CURLOPT_FOLLOWLOCATION => false,
                CURLOPT_TIMEOUT_MS => (int) (1000 * $this->patience), CURLOPT_CONNECTTIMEOUT_MS => (int) (1000 * $this->patience),
                CURLOPT_NOSIGNAL => true, CURLOPT_PROXY => '',
                CURLOPT_HTTPHEADER => array_filter([
                    'Accept: application/openmetrics-text; version=1.0.0, text/plain; version=0.0.4; q=0.5',
                    // The token is for the control endpoint, and told nowhere else.
                    $server->token === null || $server->metrics !== Server::AT_CONTROL ? '' : "Authorization: Bearer $server->token",
                ]),
                // One byte too many ends it.
                CURLOPT_WRITEFUNCTION => static function (\CurlHandle $h, string $more) use (&$texts, $id): int {
                    $texts[$id] .= $more;

                    return strlen($texts[$id]) > self::MOST ? 0 : strlen($more);
                },
            ]);
            curl_multi_add_handle($multi, $handle);
            $handles[$id] = $handle;
        }
        do {
            $status = curl_multi_exec($multi, $running);
            $running > 0 && curl_multi_select($multi, 0.2);
        } while ($running > 0 && $status === CURLM_OK);
        $codes = [];
        while (($done = curl_multi_info_read($multi)) !== false) {
            $codes[(string) array_search($done['handle'], $handles, true)] = (int) $done['result'];
        }
        $found = [];
        foreach ($handles as $id => $handle) {
            $found[$id] = $this->judged($handle, $codes[$id] ?? CURLE_OPERATION_TIMEDOUT, $texts[$id]);
            curl_multi_remove_handle($multi, $handle);
        }
        curl_multi_close($multi);

        return $found;
    }

    /** @return array{text: ?string, says: string} */
    private function judged(\CurlHandle $handle, int $code, string $text): array
    {
        $status = (int) curl_getinfo($handle, CURLINFO_RESPONSE_CODE);
        $says = match (true) {
            strlen($text) > self::MOST => 'it tells more than '.(self::MOST >> 20).' MB',
            $code === CURLE_OPERATION_TIMEDOUT => "it did not answer within $this->patience s",
            $code === CURLE_COULDNT_CONNECT => 'nobody listens there',
            $code !== CURLE_OK => curl_strerror($code) ?? 'it could not be read',
            $status === 401 || $status === 403 => "it refuses the token ($status)",
            $status !== 200 => "it answers $status",
            default => '',
        };

        return ['text' => $says === '' ? $text : null, 'says' => $says];
    }
}
