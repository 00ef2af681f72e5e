<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Server;
use App\Models\ServerKind;
use HarborPost\Core\Dns\Malformed;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Zone\RootHints;
use HarborPost\Core\Net\Address;

/**
 * How servers find names that are not in their zones: recursion, forwarders in order, what happens when none answers, root hints. For one
 * or many.
 */
final readonly class ChangeResolving extends Act
{
    /** @param  list<string>  $servers */
    public function __construct(
        #[Field(Kind::Ids, 'Servers', of: Server::class)]
        public array $servers,
        #[Field(Kind::Choice, 'Recursion', 'On, off; null leaves it', choices: ['on', 'off'])]
        public ?string $recursion = null,
        #[Field(Kind::Line, 'Forwarders', 'Addresses in order; null leaves them, "none" takes all away', most: 1000)]
        public ?string $forwarders = null,
        #[Field(Kind::Choice, 'When none answers', 'Roots, stop; null leaves it', choices: ['roots', 'stop'])]
        public ?string $fallback = null,
        #[Field(Kind::Text, 'Root hints', 'A hint file; null leaves it', most: 200000)]
        public ?string $hints = null,
        #[Field(Kind::Flag, 'No hints', 'Empties the list of hints, on purpose')]
        public bool $emptyHints = false,
        #[Field(Kind::Line, 'Hints from', most: 120)]
        public string $hintsFrom = 'a file',
        #[Field(
            Kind::Line,
            'Also reached at',
            'Further addresses under which others reach the server; null leaves them, "none" takes all away',
            most: 1000,
        )]
        public ?string $also = null,
        #[Field(
            Kind::Text,
            'Forwarded zones',
            'Lines "ZONE forwarded ADDRESS …" or "ZONE stub ADDRESS …"; null leaves them, "none" takes all away',
            most: 20000,
        )]
        public ?string $zones = null,
        #[Field(Kind::Choice, 'Validates', 'On, off; null leaves it', choices: ['on', 'off'])]
        public ?string $validating = null,
        #[Field(
            Kind::Text,
            'Trust anchors',
            'Lines "ZONE DS …" or "ZONE DNSKEY …"; null leaves them, "none" takes all away',
            most: 20000,
        )]
        public ?string $anchors = null,
        #[Field(Kind::Line, 'Not validated below', 'Zones; null leaves them, "none" takes all away', most: 2000)]
        public ?string $negative = null,
    ) {
    }

    public function title(): string
    {
        return 'Change how '
            .(count($this->servers) === 1 ? Server::query()->find($this->servers[0])->name ?? 'a server' : count($this->servers).' servers')
            .(count($this->servers) === 1 ? ' resolves' : ' resolve');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.resolvers');
    }

    public function apply(Ledger $ledger): void
    {
        $servers = Server::answering(ServerKind::naming())->whereIn('id', $this->servers)->get();
        $servers->isNotEmpty()
            && $servers->count() === count(array_unique($this->servers))
                ?: $ledger->refuse('no-server', 'Choose DNS servers or resolvers', field: 'servers');
        $forwarders = $this->forwarders === null
            || trim($this->forwarders) === '' ? null : $this->addresses($ledger, $this->forwarders, 'forwarders');
        $hints = $this->hints($ledger);
        $also = $this->also === null || trim($this->also) === '' ? null : $this->addresses($ledger, $this->also, 'also');
        $zones = $this->zones === null || trim($this->zones) === '' ? null : $this->zones($ledger);
        $anchors = $this->anchors === null || trim($this->anchors) === '' ? null : $this->anchors($ledger);
        $negative = $this->negative === null || trim($this->negative) === '' ? null : $this->negative($ledger);
        foreach ($servers as $server) {
            $own = $server->resolving ?? [];
            $own['validating'] = $this->validating === null ? $own['validating'] ?? false : $this->validating === 'on';
            $own['anchors'] = $anchors ?? $own['anchors'] ?? [];
            $own['negative'] = $negative ?? $own['negative'] ?? [];
            $own['recursion'] = $this->recursion === null ? $own['recursion'] ?? false : $this->recursion === 'on';
            $own['forwarders'] = $forwarders ?? $own['forwarders'] ?? [];
            $own['fallback'] = $this->fallback === null ? $own['fallback'] ?? false : $this->fallback === 'roots';
            $own['also'] = $also ?? $own['also'] ?? [];
            $own['zones'] = $zones ?? $own['zones'] ?? [];
            if ($hints !== null) {
                [$own['hints'], $own['hints_at'], $own['hints_from']] = [$hints, $ledger->at->format('Y-m-d H:i:s'), $this->hintsFrom];
            }
            $this->judge($ledger, $server, $own);
            $server->resolving = $own;
            $server->save();
        }
        $ledger->later('In force when the settings are shipped');
    }

    /**
     * @param  array{recursion: bool, forwarders: list<string>, fallback: bool,
     *     hints?: list<array{name: string, addresses: list<string>}>, validating: bool, anchors: list<string>, negative: list<string>} $own
     */
    private function judge(Ledger $ledger, Server $server, array $own): void
    {
        $address = (string) $server->address;
        if (in_array($address, $own['forwarders'], true)) {
            $ledger->refuse('forwards-to-itself', "$server->name would forward to itself", standard: 'RFC 9520', field: 'forwarders');
        }
        foreach (Server::answering(ServerKind::naming())->get() as $other) {
            if (
                $other->address !== null
                    && in_array((string) $other->address, $own['forwarders'], true)
                    && in_array($address, $other->resolving['forwarders'] ?? [], true)
            ) {
                $ledger->warn(
                    'forwarding-loop',
                    "$server->name and $other->name forward to each other",
                    'A question that neither can answer goes round until both give up.',
                    'RFC 9520',
                    'forwarders',
                );
            }
        }
        if (! $own['recursion'] && $own['forwarders'] !== []) {
            $ledger->warn(
                'recursion-off',
                "$server->name does not recurse, so its forwarders are never asked",
                'With recursion off it answers its own zones only; clients that resolve through it lose the rest.',
                'RFC 1034 §4.3.1',
                'recursion',
            );
        }
        if ($own['recursion'] && $own['forwarders'] !== [] && $own['fallback']) {
            $ledger->warn(
                'asks-outside',
                "$server->name asks the roots itself when no forwarder answers",
                'An inner server then talks to the internet: outsiders learn what is asked inside.',
                null,
                'fallback',
            );
        }
        if ($own['recursion'] && $own['forwarders'] !== [] && ! $own['fallback']) {
            $ledger->warn(
                'outage-with-forwarder',
                "When no forwarder answers, $server->name gives up",
                'Names outside its zones do not resolve until one is back.',
                null,
                'fallback',
            );
        }
        if (($own['validating'] ?? false) && ($own['anchors'] ?? []) === []) {
            $ledger->warn(
                'validates-nothing',
                "$server->name is to validate and holds no anchor",
                'Without one no answer can be proved, and none is found wrong.',
                'RFC 4035 §4.3',
                'anchors',
            );
        }
        foreach ($own['negative'] ?? [] as $zone) {
            $ledger->warn(
                'not-validated',
                "$server->name believes everything below ".rtrim($zone, '.'),
                'Meant for the time in which a zone of others is broken: take it out when that is mended.',
                'RFC 7646 §2.1',
                'negative',
            );
        }
        if ($own['recursion'] && ($own['hints'] ?? []) === [] && ($own['forwarders'] === [] || $own['fallback'])) {
            $ledger->warn(
                'no-hints',
                "$server->name may ask the roots and has no root hints",
                'Take a hint file in, or send a priming query.',
                'RFC 9609 §2',
                'hints',
            );
        }
    }

    /** @return list<string> each "zone type data", as zones and data are kept */
    private function anchors(Ledger $ledger): array
    {
        $anchors = [];
        $text = trim((string) $this->anchors);
        foreach (strtolower($text) === 'none' ? [] : (preg_split('/\s*\n\s*/', $text) ?: []) as $i => $line) {
            // A class and a TTL may stand there, as in a zone file.
            $words = preg_split('/\s+/', $line, -1, PREG_SPLIT_NO_EMPTY) ?: [];
            $zone = Name::tryParse(rtrim((string) array_shift($words), '.').'.');
            while ($words !== [] && (strtoupper($words[0]) === 'IN' || ctype_digit($words[0]))) {
                array_shift($words);
            }
            $type = RecordType::tryParse((string) array_shift($words));
            try {
                if ($zone === null || $type === null || ! in_array($type->number, [RecordType::DS, RecordType::DNSKEY], true)) {
                    throw Malformed::because('a zone, then DS or DNSKEY, then its data', 'RFC 4033 §2');
                }
                $data = RdataTypes::fromText($type, Fields::ofLine(implode(' ', $words)));
            } catch (Malformed $e) {
                $ledger->refuse(
                    'bad-anchor',
                    'Line '.($i + 1).': "'.$line.'" is not understood',
                    $e->getMessage().'.',
                    $e->standard,
                    'anchors',
                );
            }
            $anchors[] = "{$zone->lower()} $type {$data->text()}";
        }

        return array_values(array_unique($anchors));
    }

    /** @return list<string> */
    private function negative(Ledger $ledger): array
    {
        $zones = [];
        $text = trim((string) $this->negative);
        foreach (strtolower($text) === 'none' ? [] : (preg_split('/[\s,]+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: []) as $one) {
            $name = Name::tryParse(rtrim($one, '.').'.')
                ?? $ledger->refuse('bad-name', "\"$one\" is no zone", standard: 'RFC 7646 §2', field: 'negative');
            $zones[] = (string) $name->lower();
        }

        return array_values(array_unique($zones));
    }

    /** @return list<array{zone: string, kind: string, addresses: list<string>}> */
    private function zones(Ledger $ledger): array
    {
        $zones = [];
        foreach (
            strtolower(trim((string) $this->zones)) === 'none' ? [] : (
                preg_split('/\s*\n\s*/', trim((string) $this->zones)) ?: []
            ) as $i => $line
        ) {
            $words = preg_split('/[\s,]+/', $line, -1, PREG_SPLIT_NO_EMPTY) ?: [];
            $name = Name::tryParse(rtrim((string) array_shift($words), '.').'.');
            $kind = strtolower((string) array_shift($words));
            if ($name === null || $name->isRoot() || ! in_array($kind, ['forwarded', 'stub'], true) || $words === []) {
                $ledger->refuse(
                    'bad-zone-line',
                    'Line '.($i + 1).': "'.$line.'" is not understood',
                    'A zone, then "forwarded" or "stub", then the addresses of its servers.',
                    null,
                    'zones',
                );
            }
            $zones[] = [
                'zone' => (string) $name->lower(),
                'kind' => $kind,
                'addresses' => $this->addresses($ledger, implode(' ', $words), 'zones'),
            ];
        }

        return $zones;
    }

    /** @return list<string> */
    private function addresses(Ledger $ledger, string $text, string $field): array
    {
        $text = trim($text);
        $list = [];
        foreach (strtolower($text) === 'none' ? [] : (preg_split('/[\s,]+/', $text, -1, PREG_SPLIT_NO_EMPTY) ?: []) as $one) {
            $address = Address::tryParse($one)
                ?? $ledger->refuse(
                    'bad-address',
                    "\"$one\" is no address",
                    'Addresses, in the order in which they are asked.',
                    null,
                    $field,
                );
            $list[] = (string) $address;
        }

        return array_values(array_unique($list));
    }

    /** @return list<array{name: string, addresses: list<string>}>|null */
    private function hints(Ledger $ledger): ?array
    {
        if ($this->emptyHints) {
            $ledger->warn(
                'hints-emptied',
                'The list of root hints is emptied',
                'A server without hints cannot find the roots; it lives by its forwarders alone.',
                'RFC 9609 §2',
                'emptyHints',
            );

            return [];
        }
        if ($this->hints === null || trim($this->hints) === '') {
            return null;
        }
        try {
            $new = RootHints::parse($this->hints);
            foreach (Server::query()->whereIn('id', $this->servers)->get() as $server) {
                $difference = RootHints::ofRows($server->resolving['hints'] ?? [])->against($new);
                $words = [
                    ...array_map(static fn (string $l): string => "+ $l", $difference['added']),
                    ...array_map(static fn (string $l): string => "− $l", $difference['removed']),
                ];
                $ledger->passed(
                    'hints',
                    "Root hints of $server->name: "
                        .(
                            $words === []
                                ? 'the same'
                                : implode(', ', array_slice($words, 0, 12)).(count($words) > 12 ? ' and '.(count($words) - 12).' more' : '')
                        ),
                    'RFC 9609',
                );
            }

            return $new->rows();
        } catch (Malformed $e) {
            $ledger->refuse(
                'bad-hints',
                $e->getMessage(),
                'A hint file has NS records of the root and the addresses of those servers.',
                $e->standard,
                'hints',
            );
        }
    }
}
