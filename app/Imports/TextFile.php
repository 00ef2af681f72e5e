<?php

declare(strict_types=1);

namespace App\Imports;

/**
 * A table as spreadsheets write it, recognised and made UTF-8: UTF-8, UTF-16 with a mark, or the Western code page; columns apart by comma,
 * semicolon or tab.
 */
final readonly class TextFile
{
    private const SEPARATORS = [',' => 'commas', ';' => 'semicolons', "\t" => 'tabs'];

    private const PIECE = 1 << 20;

    private function __construct(public string $encoding, public string $separator)
    {
    }

    /** What the file is written in; for people: "UTF-8, apart by commas". */
    public function words(): string
    {
        return "$this->encoding, apart by ".self::SEPARATORS[$this->separator];
    }

    /** @throws \DomainException when it cannot be read */
    public static function recognise(string $path): self
    {
        $encoding = self::encodingOf($path);
        $file = fopen($path, 'r') ?: throw new \DomainException('The file is gone.');
        $head = (string) fread($file, 65536);
        fclose($file);
        $head = $encoding === 'UTF-8' ? $head : (string) mb_convert_encoding($head, 'UTF-8', $encoding);
        $first = (string) strtok(ltrim($head, "\u{FEFF}"), "\r\n");
        $counts = array_map(
            static fn (string $s): int => substr_count($first, $s),
            array_combine(array_keys(self::SEPARATORS), array_keys(self::SEPARATORS)),
        );
        arsort($counts);

        return new self($encoding, max($counts) === 0 ? ',' : (string) array_key_first($counts));
    }

    /** Brings the file itself to UTF-8; done once, it stays so, also when it is killed midway. */
    public function makeUtf8(string $path): void
    {
        if ($this->encoding === 'UTF-8') {
            return;
        }
        $in = fopen($path, 'r');
        $out = fopen("$path.utf8", 'w');
        if ($in === false || $out === false) {
            throw new \DomainException('The file cannot be written beside itself.');
        }
        while (($piece = fread($in, self::PIECE)) !== false && $piece !== '') {
            if (fwrite($out, (string) mb_convert_encoding($piece, 'UTF-8', $this->encoding)) === false) {
                throw new \DomainException('The file cannot be written beside itself: the disk may be full.');
            }
        }
        fclose($in);
        fclose($out);
        rename("$path.utf8", $path);
    }

    private static function encodingOf(string $path): string
    {
        $file = fopen($path, 'r') ?: throw new \DomainException('The file is gone.');
        $mark = (string) fread($file, 2);
        if ($mark === "\xFF\xFE" || $mark === "\xFE\xFF") {
            fclose($file);

            return $mark === "\xFF\xFE" ? 'UTF-16LE' : 'UTF-16BE';
        }
        rewind($file);
        for ($rest = ''; ($piece = fread($file, self::PIECE)) !== false && $piece !== '';) {
            $piece = $rest.$piece;
            // A character may be cut at the end of a piece.
            $cut = preg_match('/[\xC0-\xFF][\x80-\xBF]{0,2}\z/', $piece, $m) === 1 ? strlen($m[0]) : 0;
            $rest = $cut === 0 ? '' : substr($piece, -$cut);
            if (! mb_check_encoding(substr($piece, 0, strlen($piece) - $cut), 'UTF-8')) {
                fclose($file);

                return 'Windows-1252';
            }
        }
        fclose($file);

        return $rest === '' || mb_check_encoding($rest, 'UTF-8') ? 'UTF-8' : 'Windows-1252';
    }
}
