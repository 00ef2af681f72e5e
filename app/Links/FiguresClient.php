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
        $asked = $handles = [];
        foreach ($servers as $server) {
            $web = new Web(
                (string) $server->figuresAt(),
                $this->patience,
                self::MOST,
                ['Accept: application/openmetrics-text; version=1.0.0, text/plain; version=0.0.4; q=0.5', ...self::token($server)],
            );
            curl_multi_add_handle($multi, $web->handle);
            $asked[$server->id] = [$server, $web];
            $handles[$server->id] = $web->handle;
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
        foreach ($asked as $id => [$server, $web]) {
            $found[$id] = $this->judged($server, $web, $codes[$id] ?? CURLE_OPERATION_TIMEDOUT);
            curl_multi_remove_handle($multi, $web->handle);
        }
        curl_multi_close($multi);

        return $found;
    }

    /** @return list<string> the header with the token: it is for the control endpoint, and told nowhere else */
    private static function token(Server $server): array
    {
        return $server->token === null || $server->metrics !== Server::AT_CONTROL ? [] : ["Authorization: Bearer $server->token"];
    }

    /** @return array{text: ?string, says: string} */
    private function judged(Server $server, Web $web, int $code): array
    {
        $status = $web->status();
        $says = match (true) {
            $web->isTooLong() => 'it tells more than '.(self::MOST >> 20).' MB',
            $code === CURLE_OPERATION_TIMEDOUT => "it did not answer within $this->patience s",
            $code === CURLE_COULDNT_CONNECT => 'nobody listens there',
            $code !== CURLE_OK => curl_strerror($code) ?? 'it could not be read',
            $status !== 401 && $status !== 403 => $status === 200 ? '' : "it answers $status",
            self::token($server) !== [] => "it refuses the token ($status)",
            default => "it wants a sign-in ($status), and is told none",
        };

        return ['text' => $says === '' ? $web->text : null, 'says' => $says];
    }
}
