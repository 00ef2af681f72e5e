<?php

declare(strict_types=1);

namespace HarborPost\Standins;

/** What a stand-in remembers over a restart: JSON messages appended to a file, written anew from the present state when it starts. */
final class Journal
{
    public function __construct(private readonly string $path)
    {
    }

    /** @return \Generator<int, array<mixed>> */
    public function entries(): \Generator
    {
        if (! is_file($this->path)) {
            return;
        }
        $file = fopen($this->path, 'r');
        while ($file !== false && ($line = fgets($file)) !== false) {
            $entry = json_decode($line, true);
            if (is_array($entry)) {
                yield $entry;
            }
        }
    }

    /** @param  array<mixed>  $entry */
    public function append(array $entry): void
    {
        file_put_contents($this->path, json_encode($entry, JSON_INVALID_UTF8_SUBSTITUTE)."\n", FILE_APPEND);
    }

    /** @param  iterable<array<mixed>>  $entries */
    public function rewrite(iterable $entries): void
    {
        $new = $this->path.'.new';
        $file = fopen($new, 'w');
        if ($file === false) {
            return;
        }
        foreach ($entries as $entry) {
            fwrite($file, json_encode($entry, JSON_INVALID_UTF8_SUBSTITUTE)."\n");
        }
        fclose($file);
        rename($new, $this->path);
    }
}
