<?php

declare(strict_types=1);

namespace App\Bench;

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Tsig;
use HarborPost\Core\Dns\Wire\TsigKey;
use HarborPost\Core\Dns\Zone\RootHints;
use HarborPost\Core\Dns\Zone\Transfer;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Dns\Zone\Zone;
use HarborPost\Core\Dns\Zone\ZoneFileReader;
use HarborPost\Core\Dns\Zone\ZoneFileWriter;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * Hostile messages and zone files: whatever comes in ends in a value or in the one documented exception, within bounds. The same seed
 * makes the same inputs, so that what was found once can be found again.
 */
final class Fuzz
{
    /** Bytes that reading one input may take at most. */
    private const MEMORY = 64 << 20;

    private readonly Randomizer $random;

    /** @var list<string> */
    public array $failures = [];

    public int $read = 0;

    public int $refused = 0;

    public float $slowest = 0.0;

    public string $slowestWas = '';

    public int $heaviest = 0;

    /**
     * @param  list<string>  $messages  bytes of good messages to be damaged
     * @param  list<string>  $files  good zone files to be damaged
     */
    public function __construct(int $seed, private readonly array $messages, private readonly array $files)
    {
        $this->random = new Randomizer(new Xoshiro256StarStar($seed));
    }

    public function run(int $rounds): void
    {
        foreach (self::classics() as $name => $message) {
            $this->attempt($name, fn () => $this->message($message));
        }
        foreach (self::files() as $name => $text) {
            $this->attempt($name, fn () => $this->file($text));
        }
        for ($i = 0; $i < $rounds; $i++) {
            $message = $this->damage($this->messages[$this->random->getInt(0, count($this->messages) - 1)]);
            $this->attempt("message $i ".bin2hex(substr($message, 0, 60)), fn () => $this->message($message));
            if ($i % 4 === 0) {
                $text = $this->damage($this->files[$this->random->getInt(0, count($this->files) - 1)]);
                $this->attempt(
                    "file $i ".substr(json_encode(substr($text, 0, 80), JSON_INVALID_UTF8_SUBSTITUTE) ?: '', 0, 100),
                    fn () => $this->file($text),
                );
            }
        }
    }

    /** @return array<string, string> messages that have hurt others: loops, lengths that lie, junk, endless labels */
    private static function classics(): array
    {
        $head = static fn (int $questions, int $answers = 0): string => pack('n6', 1, 0x8000, $questions, $answers, 0, 0);

        return [
            'nothing' => '', 'a byte' => "\0", 'a name that points at itself' => $head(1)."\xc0\x0c\0\1\0\1",
            'two names that point at each other' => $head(1)."\xc0\x0e\xc0\x0c\0\1\0\1",
            'a pointer forward' => $head(1)."\xc0\x20".str_repeat("\0", 40),
            'a label type of the past' => $head(1)."\x41a\0\0\1\0\1",
            'a count that lies' => $head(65535, 65535).str_repeat("\0\0\1\0\1", 10),
            'a length that lies' => $head(0, 1)."\0\0\1\0\1\0\0\0\1\xff\xff\1\2\3\4",
            'a short address' => $head(0, 1)."\0\0\1\0\1\0\0\0\1\0\2\1\2",
            '64 KB of pointers' => $head(4000).str_repeat("\xc0\x0c", 30000), '64 KB of junk' => str_repeat("\xff\xfe", 32000),
            'a name of endless small labels' => $head(1).str_repeat("\1a", 32000)."\0\0\1\0\1",
            'chained pointers' => $head(60)
                .implode(
                    '',
                    array_map(
                        static fn (int $i): string => "\1a".($i === 0 ? "\0" : pack('n', 0xC000 | 12 + ($i - 1) * 8))."\0\1\0\1",
                        range(0, 59),
                    ),
                ),
        ];
    }

    /** @return array<string, string> */
    private static function files(): array
    {
        return [
            'an open parenthesis' => "a A (\n".str_repeat("192.0.2.1\n", 20000), 'an open quote' => 'a TXT "'.str_repeat("x\n", 20000),
            'one endless line' => 'a TXT '.str_repeat('"x" ', 50000),
            'a million tiny labels' => str_repeat('a.', 500000)." A 192.0.2.1\n",
            'escapes to the end' => 'a TXT '.str_repeat('\\', 60001), 'nulls' => str_repeat("\0", 60000),
            'nested origins' => str_repeat("\$ORIGIN a\n", 20000), 'only parentheses' => str_repeat('(', 50000).str_repeat(')', 50000),
            'a generic length that lies' => "a TYPE65400 \\# 65535 00\n", 'bytes above' => str_repeat("\xff\xfe A 1\n", 5000),
        ];
    }

    private function message(string $bytes): void
    {
        [, $bare] = Tsig::check($bytes, [TsigKey::of(Name::parse('k.'), base64_encode(str_repeat('k', 32)))], 0);
        $message = Message::fromWire($bare);
        $wire = $message->wire();
        // What was read can be written, and is then the same.
        if (Message::fromWire($wire)->wire() !== $wire) {
            throw new \LogicException('written and read again it is another message');
        }
        $request = UpdateRequest::fromMessage($message);
        $request instanceof UpdateRequest ? $request->against($request->zone, static fn (): array => []) : null;
        $transfer = new Transfer(null, 10000);
        self::orRefused(fn () => array_map($transfer->take(...), $message->answers));
    }

    private function file(string $text): void
    {
        $faults = 0;
        $reader = new ZoneFileReader(Name::parse('quay.example.'), function () use (&$faults): void {
            $faults++;
        });
        $lines = static fn (string $t): array => preg_split('/(?<=\n)/', $t, -1, PREG_SPLIT_NO_EMPTY) ?: [];
        $print = static fn (Zone $zone): string => implode('', iterator_to_array(ZoneFileWriter::lines($zone), false));
        $once = $print(Zone::of(Name::parse('quay.example.'), $reader->read($lines($text))));
        $again = $print(
            Zone::of(
                Name::parse('quay.example.'),
                (new ZoneFileReader(Name::parse('quay.example.'), static fn (): null => null))->read($lines($once)),
            ),
        );
        if ($once !== $again) {
            throw new \LogicException('printed and read again it is another zone');
        }
        self::orRefused(fn () => RootHints::parse(substr($text, 0, 4000)));
    }

    /** The value is not that of the attempt; its documented refusal is fine. */
    private static function orRefused(\Closure $do): void
    {
        try {
            $do();
        } catch (Malformed) {
            return;
        }
    }

    private function attempt(string $what, \Closure $do): void
    {
        gc_collect_cycles();
        memory_reset_peak_usage();
        $before = memory_get_usage();
        $start = microtime(true);
        try {
            $do();
            $this->read++;
        } catch (Malformed|MalformedBytes) {
            $this->refused++;
        } catch (\Throwable $e) {
            $this->failures[] = "$what: ".$e::class." {$e->getMessage()} at ".basename($e->getFile()).":{$e->getLine()}";
        }
        $took = microtime(true) - $start;
        $took <= $this->slowest ?: [$this->slowest, $this->slowestWas] = [$took, $what];
        $this->heaviest = max($this->heaviest, $used = memory_get_peak_usage() - $before);
        $used <= self::MEMORY ?: $this->failures[] = "$what: $used bytes of memory";
    }

    private function damage(string $bytes): string
    {
        for ($n = $this->random->getInt(1, 6); $n > 0 && $bytes !== ''; $n--) {
            $at = $this->random->getInt(0, strlen($bytes) - 1);
            $bytes = match ($this->random->getInt(0, 6)) {
                0 => substr($bytes, 0, $at),
                1 => substr($bytes, 0, $at).$this->random->getBytes($this->random->getInt(1, 8)).substr($bytes, $at),
                2 => substr($bytes, 0, $at).substr($bytes, min(strlen($bytes), $at + $this->random->getInt(1, 8))),
                3 => substr($bytes, 0, $at).substr($bytes, $at, 40).substr($bytes, $at),
                4 => substr_replace($bytes, chr(0xC0 | $this->random->getInt(0, 63)), $at, 1),
                default => substr_replace($bytes, chr($this->random->getInt(0, 255)), $at, 1),
            };
        }

        return $bytes;
    }

    /** @return array{list<string>, list<string>} good messages and zone files of the tests */
    public static function corpus(string $directory): array
    {
        $messages = [];
        foreach (file("$directory/messages.tsv", FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            $hex = explode("\t", $line)[0];
            ctype_xdigit($hex) && strlen($hex) % 2 === 0 ? $messages[] = (string) hex2bin($hex) : null;
        }
        foreach (file("$directory/tsig.tsv", FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            $messages[] = (string) hex2bin(explode("\t", $line)[4]);
        }
        $files = array_map(
            static fn (string $path): string => substr((string) file_get_contents($path), 0, 6000),
            glob("$directory/zones/*.zone") ?: [],
        );

        return [$messages, array_values($files)];
    }
}
