<?php

declare(strict_types=1);

namespace App\Links;

use HarborPost\Core\Net\Address;

/**
 * One question by HTTP to a system that may lie: TLS is verified, nobody is followed elsewhere, no proxy stands between, and what is
 * longer than is sensible is not read.
 */
final class Web
{
    public string $text = '';

    public readonly \CurlHandle $handle;

    /**
     * @param  list<string>  $headers
     * @param  array<int, mixed>  $more  options of curl
     *
     * @throws Unanswered when it is no address
     */
    public function __construct(string $address, float $patience, public readonly int $most, array $headers, array $more = [])
    {
        $handle = curl_init($address) ?: throw Unanswered::closed($address, $address, 'that is no address');
        $wait = (int) (1000 * $patience);
        curl_setopt_array($handle, [
            CURLOPT_PROTOCOLS => CURLPROTO_HTTP | CURLPROTO_HTTPS, CURLOPT_FOLLOWLOCATION => false, CURLOPT_TIMEOUT_MS => $wait,
            CURLOPT_CONNECTTIMEOUT_MS => $wait, CURLOPT_NOSIGNAL => true, CURLOPT_PROXY => '', CURLOPT_HTTPHEADER => $headers,
            // One byte too many ends it.
            CURLOPT_WRITEFUNCTION => function (\CurlHandle $h, string $part): int {
                $this->text .= $part;

                return $this->isTooLong() ? 0 : strlen($part);
            },
        ] + $more);
        $this->handle = $handle;
    }

    /** What a name is, or the address that it is already; null when the name has none. */
    public static function resolve(string $host): ?Address
    {
        $own = Address::tryParse($host);
        if ($own !== null) {
            return $own;
        }
        $found = gethostbyname($host.'.');

        return $found === $host.'.' ? null : Address::tryParse($found);
    }

    public function isTooLong(): bool
    {
        return strlen($this->text) > $this->most;
    }

    public function status(): int
    {
        return (int) curl_getinfo($this->handle, CURLINFO_RESPONSE_CODE);
    }
}
