<?php

declare(strict_types=1);

namespace App\View;

use App\Models\Person;
use Illuminate\Support\Str;

/** The heads of a table as it is drawn, and which columns somebody left out: the first one that has a name always stays. */
final readonly class Heads
{
    /** With fewer there is nothing to choose. */
    private const FEW = 4;

    /**
     * @param  list<string>  $names  texts of the heads in order; blank where there is none
     * @param  list<string>  $away
     */
    private function __construct(public string $table, private array $names, public array $away)
    {
    }

    public static function of(string $drawn, string $table, ?Person $person): self
    {
        $end = str_contains($drawn, ' rowspan=') ? false : strpos($drawn, '</thead>');
        // Columns that share rows have no places of their own.
        preg_match_all('~<th\b[^>]*>(.*?)</th>~s', $end === false ? '' : substr($drawn, 0, $end), $found);
        $names = array_map(
            static fn (string $head): string => Str::squish(html_entity_decode(strip_tags($head), ENT_QUOTES)),
            $found[1],
        );
        $choices = array_slice(array_values(array_filter($names, static fn (string $n): bool => $n !== '')), 1);

        return new self($table, $names, array_values(array_intersect($person->tables['hide'][$table] ?? [], $choices)));
    }

    public function mayChoose(): bool
    {
        return count($this->choices()) + 1 >= self::FEW;
    }

    /** @return list<string> */
    public function choices(): array
    {
        return array_slice(array_values(array_unique(array_filter($this->names, static fn (string $n): bool => $n !== ''))), 1);
    }

    public function words(): string
    {
        return $this->away === [] ? 'Columns' : 'Columns: '.implode(', ', $this->away).' not shown';
    }

    /** @return string places of the columns that are not shown, from 1, apart by blanks */
    public function hidden(): string
    {
        $places = [];
        foreach ($this->names as $i => $name) {
            if (in_array($name, $this->away, true)) {
                $places[] = $i + 1;
            }
        }

        return implode(' ', $places);
    }
}
