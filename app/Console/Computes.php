<?php

declare(strict_types=1);

namespace App\Console;

use Illuminate\Console\Command;

/** Commands that only compute: exit status 0 fine, 1 findings or nothing found, 2 unusable input; `--json` for programs. */
abstract class Computes extends Command
{
    protected function unusable(string $message): int
    {
        $this->err($message);

        return 2;
    }

    protected function err(string $message): void
    {
        fwrite(STDERR, $message."\n");
    }

    /** @param  array<mixed>  $value */
    protected function json(array $value): void
    {
        $this->output->writeln(
            json_encode($value, JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE),
            \Symfony\Component\Console\Output\OutputInterface::OUTPUT_RAW,
        );
    }

    protected function say(string $line): void
    {
        $this->output->writeln($line, \Symfony\Component\Console\Output\OutputInterface::OUTPUT_RAW);
    }

    /** @return \Generator<int, string> lines of standard input without ends, comments and blanks; line number → text */
    protected function lines(): \Generator
    {
        $number = 0;
        while (($line = fgets(STDIN)) !== false) {
            $number++;
            $text = trim((string) preg_replace('/#.*$/', '', $line));
            if ($text !== '') {
                yield $number => $text;
            }
        }
    }
}
