<?php

declare(strict_types=1);

namespace App\Acts\Name;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Name\KeptByHand;
use App\Domain\Ship\HandingOut;
use App\Models\Part;
use App\Models\Person;
use App\Models\Record;
use App\Models\TransferKey;
use App\Models\Zone;
use HarborPost\Core\Dns\Zone\Lapse;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/** Who may copy a zone, who may change it by dynamic update, and when names that clients registered lapse. */
final readonly class ServeZone extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'Zone', of: Zone::class)]
        public string $zone,
        #[Field(
            Kind::Choice,
            'Copies',
            'Servers: its name servers; list: what is written; nobody',
            choices: ['servers', 'list', 'nobody'],
        )]
        public ?string $copies = null,
        #[Field(Kind::Text, 'Who may copy', 'Prefixes and "key NAME", apart by commas or lines', most: 20000, blank: true)]
        public ?string $transfer = null,
        #[Field(Kind::Choice, 'Updates', 'Refused, key, address', choices: ['refused', 'key', 'address'])]
        public ?string $updateMode = null,
        #[Field(Kind::Text, 'Updates from', most: 20000, blank: true)]
        public ?string $updateFrom = null,
        #[Field(Kind::Line, 'Names lapse after', 'Hours since the last renewal; blank: names do not lapse', most: 20, blank: true)]
        public ?string $lapseAfter = null,
        #[Field(Kind::Line, 'Quiet part', 'Hours in which a renewal is acknowledged and not written', most: 20, blank: true)]
        public ?string $lapseQuiet = null,
    ) {
    }

    public function title(): string
    {
        return 'Change who copies and updates '.(Zone::query()->find($this->zone)?->title() ?? 'a zone');
    }

    public static function may(Person $person): bool
    {
        return $person->operatesAll();
    }

    public function landing(): string
    {
        return at('name.zone.service', $this->zone);
    }

    public function apply(Ledger $ledger): void
    {
        $zone = AddRecord::zone($ledger, $this->zone);
        // A list alone says that it is one.
        $copies = $this->copies ?? ($this->transfer === null ? null : 'list');
        if ($copies !== null) {
            $zone->transfer = match ($copies) {
                'servers' => null,
                'list' => $this->entries($ledger, (string) $this->transfer, 'transfer'),
                'nobody' => [],
                default => $ledger->refuse('bad-copies', 'Copies go to its name servers, to a list, or to nobody', field: 'copies'),
            };
            $this->judgeCopies($ledger, $zone);
        }
        if ($this->updateMode !== null && $this->updateMode !== 'refused' && $zone->policy_id !== null) {
            $ledger->refuse(
                'zone-is-signed',
                "{$zone->title()} is signed",
                'What a client writes there would have no signature, and no resolver that validates would believe it.',
                'RFC 3007 §4.3',
                'updateMode',
                at('name.zone.signing', $zone->id),
            );
        }
        if ($this->updateMode !== null) {
            $this->updates($ledger, $zone);
        }
        if ($this->lapseAfter !== null) {
            $this->lapse($ledger, $zone);
        }
        $zone->save();
        KeptByHand::sayTerms($ledger, $zone);
        HandingOut::listAnew($zone->view_id);
    }

    private function judgeCopies(Ledger $ledger, Zone $zone): void
    {
        $list = $zone->transferList();
        foreach ($list as $entry) {
            $net = Prefix::tryParse($entry);
            if ($net !== null && $net->length < ($net->family()->value === 4 ? 24 : 64)) {
                $ledger->warn(
                    'wide-copy',
                    $net->length === 0 ? 'Everybody may copy the zone' : "$net may copy the zone, {$net->size()} addresses",
                    'Whoever copies it has a map of every name and address in it.',
                    'RFC 5936 §6',
                    'transfer',
                );
            }
        }
        foreach ($zone->placements->where('part', Part::Secondary) as $placement) {
            $address = $placement->server->address;
            $named = array_filter(
                $list,
                fn (string $e): bool => str_starts_with($e, 'key ')
                    || $address !== null && Prefix::tryParse($e)?->contains($address) === true,
            );
            $named !== []
                ?: $ledger->warn(
                    'secondary-shut-out',
                    "{$placement->server->name} is a secondary and may not copy the zone",
                    'It keeps what it has until it expires.',
                    'RFC 5936 §5',
                    'transfer',
                );
        }
        $list === []
            ? $ledger->passed('nobody-copies', 'Nobody may copy the zone')
            : $ledger->passed('copies', 'Copies go to '.implode(', ', $list));
    }

    private function updates(Ledger $ledger, Zone $zone): void
    {
        if (! in_array($this->updateMode, ['refused', 'key', 'address'], true)) {
            $ledger->refuse('bad-mode', 'Updates are refused, taken by key or taken by address', standard: 'RFC 3007', field: 'updateMode');
        }
        $zone->update_mode = (string) $this->updateMode;
        $from = $zone->update_mode === 'refused' ? [] : $this->entries($ledger, (string) $this->updateFrom, 'updateFrom');
        $keys = array_filter($from, fn (string $e): bool => str_starts_with($e, 'key '));
        if ($zone->update_mode === 'key' && ($keys === [] || count($keys) !== count($from))) {
            $ledger->refuse(
                'no-update-key',
                'Name the keys that may update, each as "key NAME"',
                'Prefixes count only for updates by address.',
                'RFC 3007 §1',
                'updateFrom',
            );
        }
        if ($zone->update_mode === 'address') {
            $from !== [] ?: $ledger->refuse('no-update-prefix', 'Name the prefixes that may update', field: 'updateFrom');
            $ledger->warn(
                'update-by-address',
                'Anybody who can send from these addresses can write into the zone',
                'A source address is easily forged; a key is not.',
                'RFC 3007 §1',
                'updateMode',
            );
        }
        $zone->update_from = $from;
    }

    private function lapse(Ledger $ledger, Zone $zone): void
    {
        if (trim((string) $this->lapseAfter) === '') {
            $zone->lapse_after = null;
            $zone->lapse_quiet = 0;

            return;
        }
        $hours = fn (?string $text, string $field): int => is_numeric(trim((string) $text))
            ? (int) round(3600 * (float) $text)
            : (trim((string) $text) === '' ? 0 : $ledger->refuse('bad-hours', 'A time in hours', field: $field));
        try {
            $lapse = Lapse::of($hours($this->lapseAfter, 'lapseAfter'), $hours($this->lapseQuiet, 'lapseQuiet'));
        } catch (\InvalidArgumentException $e) {
            $ledger->refuse('bad-lapse', ucfirst($e->getMessage()), standard: 'RFC 9664 §4', field: 'lapseQuiet');
        }
        $zone->lapse_after = $lapse->lifetime;
        $zone->lapse_quiet = $lapse->quiet;
        $gone = Record::query()->where('zone_id', $zone->id)
            ->where('renewed_at', '<=', $ledger->at->modify("-$lapse->lifetime seconds"))->orderBy('renewed_at')->get();
        $gone->isEmpty()
            ?: $ledger->warn(
                'lapse-at-once',
                "{$gone->count()} registered records would go at once",
                'The first: '.$gone->take(5)->map(fn (Record $r): string => $r->line())->implode('; ').'.',
                'RFC 9664',
                'lapseAfter',
                at('name.zone', $zone->id).'?filter=renewed:yes',
            );
        if ($zone->update_mode === 'refused') {
            $ledger->warn(
                'lapse-without-updates',
                'Nobody may register names here, so nothing will lapse',
                'Lapse is in force only where updates are taken.',
                'RFC 9664',
                'lapseAfter',
            );
        }
    }

    /** @return list<string> prefixes, and keys as "key NAME." */
    private function entries(Ledger $ledger, string $text, string $field): array
    {
        $entries = [];
        foreach (preg_split('/\s*[,\n]\s*/', trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: [] as $entry) {
            if (preg_match('/\Akey\s+(\S+)\z/i', $entry, $m) === 1) {
                $name = strtolower(rtrim($m[1], '.')).'.';
                TransferKey::query()->where('name', $name)->exists()
                    ?: $ledger->refuse('no-such-key', "There is no key \"$m[1]\"", 'Make it first.', null, $field, at('name.keys'));
                $entries[] = "key $name";

                continue;
            }
            try {
                $entries[] = (string) Prefix::parse(
                    str_contains($entry, '/') ? $entry : $entry.(str_contains($entry, ':') ? '/128' : '/32'),
                );
            } catch (NotUnderstood $e) {
                $ledger->refuse('not-a-prefix', $e->getMessage(), 'A prefix, or "key NAME".', null, $field, null, $e->suggestion);
            }
        }

        return array_values(array_unique($entries));
    }
}
