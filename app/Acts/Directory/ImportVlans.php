<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Directory\Vlans;
use App\Models\Layer2Domain;
use App\Models\Person;
use App\Models\Role;
use App\Models\Vlan;
use Illuminate\Support\Str;

/**
 * VLANs from a table: domain, number, name, description, as CSV with a heading or as a JSON list of objects. New ones are made, names and
 * descriptions of known ones change, what is the same stays; a faulty line stops all of them and is named.
 */
final readonly class ImportVlans extends Act
{
    private const MOST = 8000;

    public function __construct(
        #[Field(Kind::Text, 'Table', most: 5000000)]
        public string $table,
    ) {
    }

    public function title(): string
    {
        return 'Take in VLANs';
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.list', 'vlans');
    }

    public function apply(Ledger $ledger): void
    {
        $domains = Layer2Domain::query()->pluck('id', 'name')
            ->mapWithKeys(fn (string $id, string $name): array => [mb_strtolower($name) => $id]);
        $same = 0;
        $seen = [];
        foreach ($this->rows($ledger) as $line => $row) {
            $domain = $domains[mb_strtolower($row['domain'])]
                ?? $ledger->refuse(
                    'no-domain',
                    "Line $line: the layer-2 domain \"{$row['domain']}\" is not in the directory",
                    'Add it first.',
                    null,
                    'table',
                );
            if (preg_match('/\A\d{1,4}\z/', $row['number']) !== 1) {
                $ledger->refuse(
                    'bad-number',
                    "Line $line: \"{$row['number']}\" is no VLAN number",
                    'A number is 1 to 4094.',
                    'IEEE 802.1Q',
                    'table',
                );
            }
            $number = (int) $row['number'];
            if (isset($seen["$domain $number"])) {
                $ledger->refuse(
                    'line-twice',
                    "Line $line: VLAN $number of {$row['domain']} stands already on line {$seen["$domain $number"]}",
                    field: 'table',
                );
            }
            $seen["$domain $number"] = $line;
            $known = Vlan::query()->where('domain_id', $domain)->where('number', $number)->first();
            if ($known === null) {
                Vlans::make($ledger, $domain, $number, $row['name'], (string) Str::ulid(), $row['description']);

                continue;
            }
            $known->name = $row['name'] === '' ? $known->name : $row['name'];
            $known->description = $row['description'] === '' ? $known->description : $row['description'];
            $known->isDirty() ? $known->save() : $same++;
        }
        $same === 0 || $ledger->passed('same', "$same are the same already");
    }

    /** @return array<int, array{domain: string, number: string, name: string, description: string}> line → row */
    private function rows(Ledger $ledger): array
    {
        $text = trim((string) preg_replace('/\A\xEF\xBB\xBF/', '', $this->table));
        $blank = ['domain' => '', 'number' => '', 'name' => '', 'description' => ''];
        $rows = [];
        if (str_starts_with($text, '[')) {
            $data = json_decode($text, true);
            is_array($data) || $ledger->refuse('bad-table', 'The table is no JSON: '.json_last_error_msg(), field: 'table');
            foreach ((array) $data as $i => $row) {
                is_array($row) || $ledger->refuse('bad-table', 'Entry '.($i + 1).' is no object', field: 'table');
                $rows[(int) $i + 1] = array_map(
                    fn (mixed $v): string => is_scalar($v) ? trim((string) $v) : '',
                    array_intersect_key((array) $row, $blank),
                ) + $blank;
            }
        } else {
            $lines = preg_split('/\R/', $text) ?: [];
            $head = array_map(
                fn (?string $c): string => strtolower(trim((string) $c)),
                str_getcsv((string) array_shift($lines), ',', '"', ''),
            );
            if (! in_array('domain', $head, true) || ! in_array('number', $head, true)) {
                $ledger->refuse(
                    'bad-table',
                    'The first line names the columns domain, number, name, description',
                    'Found: '.mb_strimwidth(implode(', ', $head), 0, 100, '…').'.',
                    null,
                    'table',
                );
            }
            foreach ($lines as $i => $line) {
                if (trim($line) !== '') {
                    $cells = array_map(fn (?string $c): string => trim((string) $c), str_getcsv($line, ',', '"', ''));
                    $rows[$i + 2] = array_intersect_key(
                        array_combine($head, array_pad(array_slice($cells, 0, count($head)), count($head), '')),
                        $blank,
                    ) + $blank;
                }
            }
        }
        if ($rows === [] || count($rows) > self::MOST) {
            $ledger->refuse('bad-table', $rows === [] ? 'The table is empty' : 'At most '.self::MOST.' VLANs at once', field: 'table');
        }

        return $rows;
    }
}
