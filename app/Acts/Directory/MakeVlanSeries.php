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
use Illuminate\Support\Str;

/** A series of VLANs in one domain: numbers as 200-209 or 110, 120, 130, names by a pattern. */
final readonly class MakeVlanSeries extends Act
{
    private const MOST = 500;

    public function __construct(
        #[Field(Kind::Id, 'Layer-2 domain', of: Layer2Domain::class)]
        public string $domain,
        #[Field(Kind::Line, 'Numbers', most: 255)]
        public string $numbers,
        #[Field(Kind::Line, 'Name', '{n} is the VLAN number, {i} counts from 1', most: 60)]
        public string $name = 'VLAN-{n}',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
    ) {
    }

    public function title(): string
    {
        return "Make VLANs $this->numbers";
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
        if (! str_contains($this->name, '{n}') && ! str_contains($this->name, '{i}')) {
            $ledger->refuse(
                'bad-pattern',
                'The name takes {n} for the number or {i} to count',
                'Otherwise all of them would be called the same.',
                null,
                'name',
            );
        }
        foreach ($this->numbers($ledger) as $i => $number) {
            Vlans::make(
                $ledger,
                $this->domain,
                $number,
                strtr($this->name, ['{n}' => (string) $number, '{i}' => (string) ($i + 1)]),
                (string) Str::ulid(),
                $this->description,
            );
        }
    }

    /** @return list<int> */
    private function numbers(Ledger $ledger): array
    {
        $numbers = [];
        foreach (
            preg_split('/[\s,;]+/', trim((string) preg_replace('/\s*-\s*/', '-', $this->numbers)), -1, PREG_SPLIT_NO_EMPTY) ?: [] as $part
        ) {
            if (
                preg_match('/\A(\d{1,4})(?:-(\d{1,4})(?:\/(\d{1,3}))?)?\z/', $part, $m) !== 1
                    || (int) ($m[2] ?? $m[1]) < (int) $m[1]
                    || ($m[3] ?? '1') === '0'
            ) {
                $ledger->refuse(
                    'bad-numbers',
                    "\"$part\" is no VLAN number and no range",
                    'Write 200-209, 200-290/10 for every tenth, or 110, 120, 130.',
                    null,
                    'numbers',
                );
            }
            $numbers = [...$numbers, ...range((int) $m[1], (int) ($m[2] ?? $m[1]), (int) ($m[3] ?? 1))];
        }
        $numbers = array_values(array_unique($numbers));
        if ($numbers === [] || count($numbers) > self::MOST) {
            $ledger->refuse('bad-numbers', 'From 1 to '.self::MOST.' VLANs at once', field: 'numbers');
        }

        return $numbers;
    }
}
