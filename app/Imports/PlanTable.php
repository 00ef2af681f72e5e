<?php

declare(strict_types=1);

namespace App\Imports;

use App\Domain\Plan\PlanColumns;

/** The rows of a plan's table by the columns that its first line names, or that were said to be meant. */
final class PlanTable
{
    public int $line = 1;

    /** @var list<string> */
    private array $last = [];

    /**
     * @param  resource  $file
     * @param  list<string>  $headings  as they stand in the file
     * @param  list<string>  $columns  ours; blank for one that is passed over on purpose
     * @param  list<string>  $unknown  headings that are none of ours
     */
    private function __construct(
        private $file,
        private readonly string $separator,
        public readonly array $headings,
        private readonly array $columns,
        public readonly array $unknown,
        private readonly ?string $twice,
    ) {
    }

    /**
     * @param  array<string, string>  $mapping  heading in lower case → column, blank to pass it over
     *
     * @throws \DomainException when the file cannot be read
     */
    public static function open(string $path, array $mapping): self
    {
        $separator = TextFile::recognise($path)->separator;
        $file = fopen($path, 'r') ?: throw new \DomainException('The file is gone.');
        $headings = array_map(
            static fn (?string $c): string => trim((string) $c, " \t\u{FEFF}"),
            fgetcsv($file, separator: $separator, escape: '') ?: [],
        );
        $columns = $unknown = [];
        $twice = null;
        foreach ($headings as $heading) {
            $name = mb_strtolower($heading);
            $column = $mapping[$name] ?? $name;
            if ($column !== '' && ! PlanColumns::has($column)) {
                $unknown[] = $heading;
            }
            if ($column !== '' && in_array($column, $columns, true)) {
                $twice = $column;
            }
            $columns[] = $column;
        }

        return new self($file, $separator, $headings, $columns, $unknown, $twice);
    }

    public function isUsable(): bool
    {
        return $this->twice === null && (in_array('prefix', $this->columns, true) || in_array('address', $this->columns, true));
    }

    public function trouble(): string
    {
        return match (true) {
            $this->unknown !== [] => 'Unknown columns: '
                .implode(', ', array_slice($this->unknown, 0, 12))
                .'. Say what they mean, or pass them over.',
            $this->twice !== null => "Two columns mean \"$this->twice\". Say which of them is meant.",
            default => 'The first line names the columns and needs "prefix" or "address"; found: '
                .mb_strimwidth(implode(', ', $this->headings), 0, 120, '…'),
        };
    }

    /** The cells of the latest row, for a row that cannot be told by columns. */
    public function lastCells(): string
    {
        return implode(', ', $this->last);
    }

    public function tooMany(): string
    {
        return sprintf('%d cells, the first line has %d', count($this->last), count($this->columns));
    }

    /**
     * @param  int  $from  byte to go on from; 0 from the first row
     * @return \Generator<int, array{int, int, array<string, string>|null}> line, byte behind it, column → text; null when there are too
     *     many cells
     */
    public function rows(int $from, int $line): \Generator
    {
        if ($from > 0) {
            fseek($this->file, $from);
        }
        $this->line = $line;
        while (($cells = fgetcsv($this->file, separator: $this->separator, escape: '')) !== false) {
            $this->line++;
            $this->last = array_map(static fn (?string $c): string => trim((string) $c), $cells);
            if (implode('', $this->last) === '') {
                continue;
            }
            $row = null;
            if (count($this->last) <= count($this->columns)) {
                $row = array_combine($this->columns, array_pad($this->last, count($this->columns), ''));
                unset($row['']);
            }
            yield [$this->line, (int) ftell($this->file), $row];
        }
    }

    /**
     * The rows of some lines as a table of their own, to be mended and sent again.
     *
     * @param  array<int, string>  $reasons  line → why it was refused
     * @return \Generator<int, list<string>>
     */
    public function only(array $reasons): \Generator
    {
        yield [...$this->headings, 'refused because'];
        foreach ($this->rows(0, 1) as [$line]) {
            if (isset($reasons[$line])) {
                yield [...array_pad($this->last, count($this->headings), ''), "line $line: $reasons[$line]"];
            }
        }
    }
}
