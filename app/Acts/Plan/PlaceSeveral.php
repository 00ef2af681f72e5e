<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\NewHost;
use App\Domain\Plan\Tree;
use App\Models\Prefix;
use App\Models\Zone;
use App\Queries\FreeAddresses;
use Illuminate\Support\Str;

/**
 * Several hosts at once: as many as asked for, or one for each line of a pasted list of names (with a MAC behind a name where there is
 * one). All of them or none.
 */
final readonly class PlaceSeveral extends Act
{
    use InSubnet;

    public const MOST = 500;

    public function __construct(
        #[Field(Kind::Id, 'Prefix', of: Prefix::class)]
        public string $prefix,
        #[Field(Kind::Number, 'How many', 'How many; blank takes one for each line of names', most: 500, least: 1)]
        public ?int $count = null,
        #[Field(Kind::Text, 'Names', 'A name a line, a MAC behind it if any; or one pattern with {n} for the number', most: 200000)]
        public string $names = '',
        #[Field(Kind::Number, 'Start', 'The number that {n} starts with', most: 99999999, least: 0)]
        public int $start = 1,
        #[Field(Kind::Flag, 'In a row', 'Neighbouring addresses only')]
        public bool $row = false,
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone = '',
        #[Field(Kind::Flag, 'PTR')]
        public bool $ptr = false,
        #[Field(Kind::Flag, 'Reserve')]
        public bool $reserve = false,
        #[Field(Kind::Choice, 'Role', choices: ['host', 'gateway', 'virtual', 'service'])]
        public string $role = 'host',
        #[Field(Kind::Line, 'Owner', most: 120)]
        public string $owner = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
        #[Field(Kind::Choice, 'Identifier', choices: ['low', 'eui64', 'stable'])]
        public string $choose = 'low',
    ) {
    }

    public function title(): string
    {
        return 'Place several hosts';
    }

    public function apply(Ledger $ledger): void
    {
        $subnet = $this->subnet($ledger);
        $lines = $this->lines($ledger);
        $addresses = [];
        if ($this->row) {
            Tree::lock($subnet->space, $subnet);
            $addresses = FreeAddresses::row($subnet, count($lines));
            if ($addresses === []) {
                $ledger->refuse(
                    'no-row',
                    'There are no '.count($lines)." free addresses in a row in {$subnet->line()}",
                    'Take them apart from each other, or fewer.',
                    null,
                    'count',
                    at('plan.prefix', $subnet->id),
                );
            }
        }
        foreach ($lines as $i => [$name, $mac]) {
            (new NewHost(
                prefix: $this->prefix, id: (string) Str::ulid(), name: $name, zone: $name === '' ? '' : $this->zone,
                address: isset($addresses[$i]) ? (string) $addresses[$i] : '', mac: $mac, ptr: $this->ptr,
                reserve: $this->reserve && $mac !== '',
                role: $this->role, owner: $this->owner, description: $this->description, choose: $this->choose,
            ))->place($ledger);
        }
    }

    /** @return list<array{string, string}> name and MAC of each */
    private function lines(Ledger $ledger): array
    {
        $lines = array_values(
            array_filter(array_map(trim(...), preg_split('/\R/', $this->names) ?: []), fn (string $l): bool => $l !== ''),
        );
        $pattern = count($lines) === 1 && str_contains($lines[0], '{n}') ? $lines[0] : null;
        $count = $this->count ?? ($pattern === null ? count($lines) : 0);
        if ($count < 1 || $count > self::MOST) {
            $ledger->refuse('bad-count', 'From 1 to '.self::MOST.' hosts at once', 'Write how many, or one name a line.', null, 'count');
        }
        if ($pattern === null && $lines !== [] && $this->count !== null && $this->count !== count($lines)) {
            $ledger->refuse(
                'count-differs',
                count($lines)." names are listed, $this->count hosts were asked for",
                'Leave the number blank, or write one name with {n}.',
                null,
                'names',
            );
        }
        $found = [];
        for ($i = 0; $i < $count; $i++) {
            if ($pattern !== null) {
                $found[] = [str_replace('{n}', (string) ($this->start + $i), $pattern), ''];

                continue;
            }
            $words = preg_split('/[\s,;]+/', $lines[$i] ?? '', -1, PREG_SPLIT_NO_EMPTY) ?: [''];
            if (count($words) > 2) {
                $ledger->refuse('bad-line', 'Line '.($i + 1).": \"{$lines[$i]}\" is more than a name and a MAC", field: 'names');
            }
            $found[] = [(string) $words[0], (string) ($words[1] ?? '')];
        }

        return $found;
    }
}
