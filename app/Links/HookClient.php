<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix;

/**
 * One POST to a system outside, over TLS that is verified, without following anybody elsewhere. The name is looked up here and the
 * connection goes to that very address, so that nobody leads it into networks of our own by answering twice.
 */
final readonly class HookClient
{
    /** Where nothing outside is (RFC 6890). */
    private const INNER = [
        '0.0.0.0/8', '10.0.0.0/8', '100.64.0.0/10', '127.0.0.0/8', '169.254.0.0/16', '172.16.0.0/12', '192.168.0.0/16', '192.0.0.0/24',
        '224.0.0.0/3', '::/127', '::ffff:0:0/96', '64:ff9b::/96', 'fc00::/7', 'fe80::/10', 'ff00::/8',
    ];

    /** Bytes of an answer that are read. */
    private const READ = 2000;

    public function __construct(private float $patience)
    {
    }

    /** What is wrong with an address; null when it can be called. */
    public static function fault(string $address, bool $inner): ?string
    {
        $parts = parse_url($address);
        $scheme = is_array($parts) ? ($parts['scheme'] ?? '') : '';
        $host = is_array($parts) ? ($parts['host'] ?? '') : '';

        return match (true) {
            ! in_array($scheme, ['https', 'http'], true) || $host === '' => 'an address as https://host/path is meant',
            $scheme === 'http' && ! $inner => 'only https leads outside',
            isset($parts['user']) || isset($parts['pass']) => 'no sign-in stands in an address',
            preg_match('/[\x00-\x20\x7f]/', $address) === 1 => 'blanks and control characters stand in no address',
            default => null,
        };
    }

    /**
     * @param  array<string, string>  $headers
     * @return array{status: ?int, says: string, milliseconds: int} status null: nobody answered
     */
    public function post(string $address, bool $inner, array $headers, string $body): array
    {
        $start = microtime(true);
        $done = static fn (?int $status, string $says): array => [
            'status' => $status, 'says' => mb_scrub(mb_strimwidth($says, 0, 500, '…'), 'UTF-8'),
            'milliseconds' => (int) round(1000 * (microtime(true) - $start)),
        ];
        $fault = self::fault($address, $inner);
        if ($fault !== null) {
            return $done(null, $fault);
        }
        $url = (array) parse_url($address);
        $host = trim((string) ($url['host'] ?? ''), '[]');
        $to = Web::resolve($host);
        if ($to === null) {
            return $done(null, "$host has no address");
        }
        if (! $inner && self::isInner($to)) {
            return $done(null, "$host is $to, which is not outside; a steward can allow that");
        }
        $tls = ($url['scheme'] ?? '') === 'https';
        $port = (int) ($url['port'] ?? ($tls ? 443 : 80));
        $context = stream_context_create(
            ['ssl' => ['peer_name' => $host, 'SNI_enabled' => true, 'verify_peer' => true, 'verify_peer_name' => true]],
        );
        $peer = ($tls ? 'tls' : 'tcp').'://'.(str_contains((string) $to, ':') ? "[$to]" : (string) $to).":$port";
        $socket = @stream_socket_client($peer, $code, $why, $this->patience, STREAM_CLIENT_CONNECT, $context);
        if ($socket === false) {
            return $done(null, (string) $why !== '' ? (string) $why : 'it cannot be reached, or its certificate is not good');
        }
        $path = ($url['path'] ?? '/').(isset($url['query']) ? "?$url[query]" : '');
        $lines = [
            "POST $path HTTP/1.1",
            "Host: $host".(in_array($port, [80, 443], true) ? '' : ":$port"),
            'Content-Length: '.strlen($body),
        ];
        foreach ($headers + ['Content-Type' => 'application/json', 'Connection' => 'close'] as $name => $value) {
            $lines[] = "$name: ".preg_replace('/[\r\n]/', '', $value);
        }
        [$status, $says] = $this->talk($socket, implode("\r\n", $lines)."\r\n\r\n$body", $start + $this->patience);
        fclose($socket);

        return $done($status, $says);
    }

    /**
     * @param  resource  $socket
     * @return array{?int, string}
     */
    private function talk($socket, string $request, float $until): array
    {
        stream_set_blocking($socket, true);
        stream_set_timeout($socket, (int) max(1, ceil($this->patience)));
        for ($sent = 0; $sent < strlen($request);) {
            $n = @fwrite($socket, substr($request, $sent));
            if ($n === false || $n === 0 || microtime(true) > $until) {
                return [null, 'it broke off while it was told'];
            }
            $sent += $n;
        }
        $answer = '';
        while (strlen($answer) < self::READ && ! feof($socket) && microtime(true) < $until) {
            $more = @fread($socket, self::READ);
            if ($more === false || $more === '' && stream_get_meta_data($socket)['timed_out']) {
                break;
            }
            $answer .= $more;
        }
        if (preg_match('/\AHTTP\/1\.[01] (\d{3})/', $answer, $m) !== 1) {
            return [null, $answer === '' ? 'it did not answer in time' : 'what it answers is no HTTP'];
        }

        return [(int) $m[1], trim((string) preg_replace('/\A.*?\r?\n\r?\n/s', '', $answer))];
    }

    private static function isInner(Address $address): bool
    {
        foreach (self::INNER as $net) {
            $prefix = Prefix::parse($net);
            if ($prefix->family() === $address->family && $prefix->contains($address)) {
                return true;
            }
        }

        return false;
    }
}
