<?php

declare(strict_types=1);

namespace HarborPost\Launcher;

/**
 * A file that only the owner of a recovery key can open: a line with its name, a line of JSON, then frames of a stream (XChaCha20-Poly1305,
 * compressed before), each with its length. The key of the stream is drawn for the file and sealed for the recovery key (X25519); so is
 * whatever secret is to come back with the data. A frame that is missing, doubled, exchanged or altered is found, and so is a missing end.
 */
final class Vault
{
    private const NAME = "Harbor Post vault 1\n";

    private const FRAME = 1 << 18;

    /** Makes a recovery key: the file is all that opens what is sealed for it. */
    public static function makeKey(string $file): string
    {
        if (file_exists($file)) {
            throw new Trouble("$file exists already; a recovery key is never written over.");
        }
        $pair = sodium_crypto_box_keypair();
        $written = @file_put_contents($file, "Harbor Post recovery key 1\n".base64_encode($pair)."\n");
        if ($written === false) {
            throw new Trouble("$file cannot be written.");
        }
        chmod($file, 0600);

        return base64_encode(sodium_crypto_box_publickey($pair));
    }

    public static function fingerprint(string $public): string
    {
        return implode(' ', str_split(substr(hash('sha256', (string) base64_decode($public, true)), 0, 16), 4));
    }

    /**
     * @param  \Closure(\Closure(string): void): void  $source  calls what it is given with each piece
     * @param  array<string, string>  $secrets  sealed with the data
     * @param  array<string, mixed>  $about  for whoever reads the file without a key
     * @return array{key: string, bytes: int, sha256: string} what {@see check()} reads it back with
     */
    public static function write(string $file, string $public, \Closure $source, array $secrets = [], array $about = []): array
    {
        $recipient = base64_decode($public, true);
        if ($recipient === false || strlen($recipient) !== SODIUM_CRYPTO_BOX_PUBLICKEYBYTES) {
            throw new Trouble('The public part of the recovery key is not one.');
        }
        $key = sodium_crypto_secretstream_xchacha20poly1305_keygen();
        [$state, $header] = sodium_crypto_secretstream_xchacha20poly1305_init_push($key);
        $out = file_exists($file) ? false : @fopen($file, 'xb');
        if ($out === false) {
            throw new Trouble("$file cannot be written.");
        }
        chmod($file, 0600);
        $put = static function (string $bytes) use ($out, $file): void {
            if (fwrite($out, $bytes) !== strlen($bytes)) {
                throw new Trouble("$file could not be written whole: is the disk full?");
            }
        };
        $put(self::NAME);
        $put(json_encode([
            'for' => self::fingerprint($public),
            'key' => base64_encode(sodium_crypto_box_seal($key, $recipient)),
            'secrets' => base64_encode(sodium_crypto_box_seal((string) json_encode($secrets), $recipient)),
            'stream' => base64_encode($header),
            'about' => $about,
        ], JSON_THROW_ON_ERROR)."\n");
        $deflate = deflate_init(ZLIB_ENCODING_GZIP, ['level' => 6]) ?: throw new Trouble('zlib cannot compress here.');
        $hash = hash_init('sha256');
        $bytes = 0;
        $held = '';
        $push = static function (string $plain, int $tag) use (&$state, $put): void {
            $frame = sodium_crypto_secretstream_xchacha20poly1305_push($state, $plain, '', $tag);
            $put(pack('N', strlen($frame)).$frame);
        };
        $source(static function (string $piece) use ($deflate, $hash, $push, &$bytes, &$held): void {
            hash_update($hash, $piece);
            $bytes += strlen($piece);
            $held .= (string) deflate_add($deflate, $piece, ZLIB_NO_FLUSH);
            while (strlen($held) >= self::FRAME) {
                $push(substr($held, 0, self::FRAME), SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_TAG_MESSAGE);
                $held = substr($held, self::FRAME);
            }
        });
        $push($held.deflate_add($deflate, '', ZLIB_FINISH), SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_TAG_FINAL);
        if (! fflush($out) || ! fsync($out) || ! fclose($out)) {
            throw new Trouble("$file could not be written whole: is the disk full?");
        }

        return ['key' => $key, 'bytes' => $bytes, 'sha256' => hash_final($hash)];
    }

    /**
     * Reads a file back with the key it was just written with.
     *
     * @param  array{key: string, bytes: int, sha256: string}  $written
     */
    public static function check(string $file, array $written): void
    {
        $hash = hash_init('sha256');
        $bytes = 0;
        self::stream($file, $written['key'], static function (string $piece) use ($hash, &$bytes): void {
            hash_update($hash, $piece);
            $bytes += strlen($piece);
        });
        if ($bytes !== $written['bytes'] || ! hash_equals($written['sha256'], hash_final($hash))) {
            throw new Trouble("$file was read back and is not what was written.");
        }
    }

    /** @return array{for: string, key: string, secrets: string, stream: string, about: array<mixed>} what stands in front */
    public static function head(string $file): array
    {
        $in = @fopen($file, 'rb');
        $name = $in === false ? false : fread($in, strlen(self::NAME));
        $head = $in === false ? null : json_decode((string) fgets($in, 1 << 16), true);
        if ($name !== self::NAME || ! is_array($head)) {
            throw new Trouble("$file is no vault of Harbor Post, or its beginning is damaged.");
        }
        $text = static fn (string $key): string => is_string($head[$key] ?? null) ? $head[$key] : '';

        return [
            'for' => $text('for'), 'key' => $text('key'), 'secrets' => $text('secrets'), 'stream' => $text('stream'),
            'about' => is_array($head['about'] ?? null) ? $head['about'] : [],
        ];
    }

    /**
     * @param  \Closure(string): void  $take
     * @return array<string, string> the secrets that came with it
     */
    public static function open(string $file, string $keyFile, \Closure $take): array
    {
        $pair = self::pair($keyFile);
        $head = self::head($file);
        $key = sodium_crypto_box_seal_open((string) base64_decode($head['key'], true), $pair);
        $secrets = sodium_crypto_box_seal_open((string) base64_decode($head['secrets'], true), $pair);
        if ($key === false || $secrets === false) {
            $own = self::fingerprint(base64_encode(sodium_crypto_box_publickey($pair)));
            throw new Trouble("$file was sealed for the key {$head['for']}, and $keyFile is $own.");
        }
        self::stream($file, $key, $take);
        $read = json_decode($secrets, true);

        return array_filter(is_array($read) ? $read : [], is_string(...));
    }

    /** The half of a recovery key that stays on the machine. */
    public static function publicOf(string $keyFile): string
    {
        return base64_encode(sodium_crypto_box_publickey(self::pair($keyFile)));
    }

    private static function pair(string $keyFile): string
    {
        $lines = is_readable($keyFile) ? explode("\n", trim((string) file_get_contents($keyFile))) : [];
        $pair = ($lines[0] ?? '') === 'Harbor Post recovery key 1' ? base64_decode($lines[1] ?? '', true) : false;
        if ($pair === false || strlen($pair) !== SODIUM_CRYPTO_BOX_KEYPAIRBYTES) {
            throw new Trouble("$keyFile is no recovery key of Harbor Post, or cannot be read.");
        }

        return $pair;
    }

    /** @param  \Closure(string): void  $take */
    private static function stream(string $file, string $key, \Closure $take): void
    {
        $head = self::head($file);
        $in = fopen($file, 'rb');
        if ($in === false) {
            throw new Trouble("$file cannot be read.");
        }
        fread($in, strlen(self::NAME));
        fgets($in);
        $state = sodium_crypto_secretstream_xchacha20poly1305_init_pull((string) base64_decode($head['stream'], true), $key);
        $inflate = inflate_init(ZLIB_ENCODING_GZIP);
        $final = false;
        while (! $final) {
            $size = stream_get_contents($in, 4);
            $length = strlen((string) $size) === 4 ? (unpack('N', (string) $size) ?: [1 => 0])[1] : 0;
            $frame = $length > 0 && $length <= 2 * self::FRAME + 65536 ? (string) stream_get_contents($in, $length) : '';
            $read = strlen($frame) === $length && $length > 0
                ? sodium_crypto_secretstream_xchacha20poly1305_pull($state, $frame)
                : false;
            if ($read === false || $inflate === false) {
                throw new Trouble("$file is damaged or cut off at byte ".ftell($in).': nothing behind that can be trusted.');
            }
            [$plain, $tag] = $read;
            $final = $tag === SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_TAG_FINAL;
            $take((string) inflate_add($inflate, $plain, $final ? ZLIB_FINISH : ZLIB_SYNC_FLUSH));
        }
        if (fgetc($in) !== false) {
            throw new Trouble("$file goes on behind its end: something was added to it.");
        }
        fclose($in);
    }
}
