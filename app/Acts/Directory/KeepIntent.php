<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Person;
use App\Models\Role;
use App\Models\Vlan;
use App\Models\VlanIntent;
use App\Queries\SwitchIntent;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Shipping\Window;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Str;

/** What clients of some VLANs are meant to reach: one rule of each of them to a VLAN or a prefix, new or changed. */
final readonly class KeepIntent extends Act
{
    /**
     * @param  list<string>  $vlans
     * @param  list<string>  $days
     */
    public function __construct(
        #[Field(Kind::Ids, 'VLANs', 'Whose clients', of: Vlan::class)]
        public array $vlans,
        #[Field(Kind::Choice, 'May they', choices: ['no', 'yes'])]
        public string $allows = 'no',
        #[Field(Kind::Id, 'This VLAN', 'One of the two', of: Vlan::class)]
        public string $to = '',
        #[Field(Kind::Line, 'Prefix', 'Or an address', most: 80, example: '10.32.0.0/16')]
        public string $prefix = '',
        #[Field(Kind::Texts, 'Days', 'Of the week, 1 for Monday; none: always')]
        public array $days = [],
        #[Field(Kind::Line, 'Begins', most: 5, example: '07:00')]
        public string $starts = '',
        #[Field(Kind::Number, 'Minutes', most: Window::LONGEST, least: 1)]
        public ?int $minutes = null,
        #[Field(Kind::Line, 'Time zone', most: 60, example: 'Europe/London')]
        public string $zone = 'UTC',
        #[Field(Kind::Line, 'Why', most: 255)]
        public string $why = '',
    ) {
    }

    public function title(): string
    {
        return 'Say what clients of '.(count($this->vlans) === 1 ? 'a VLAN' : count($this->vlans).' VLANs').' may reach';
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('directory.reach');
    }

    public function apply(Ledger $ledger): void
    {
        if ($this->vlans === []) {
            $ledger->refuse('no-vlan', 'Choose whose clients it is about', field: 'vlans');
        }
        if (($this->to === '') === (trim($this->prefix) === '')) {
            $ledger->refuse('one-target', 'It is about one VLAN, or about one prefix', 'Write one of the two.', field: 'to');
        }
        $net = trim($this->prefix) === '' ? null : $this->net($ledger);
        $window = $this->days === [] ? null : $this->window($ledger);
        foreach ($this->vlans as $id) {
            Guard::own("intent:$id");
        }
        $vlans = Vlan::query()->with('domain')->whereIn('id', $this->vlans)->orderBy('domain_id')->orderBy('number')->get();
        $before = self::cut($vlans);
        foreach ($vlans as $vlan) {
            if ($vlan->id === $this->to) {
                $ledger->refuse('same-vlan', "{$vlan->line()} reaches itself without anybody between", field: 'to');
            }
            $row = VlanIntent::query()->where('vlan_id', $vlan->id)->where('to_key', $this->to !== '' ? $this->to : (string) $net)->first()
                ?? new VlanIntent(['id' => (string) Str::ulid(), 'vlan_id' => $vlan->id]);
            $row->toward($this->to === '' ? null : $this->to, $net === null ? null : (string) $net)->fill([
                'allows' => $this->allows === 'yes', 'days' => $window === null ? null : implode(' ', $window->days),
                'starts' => $window === null ? null : sprintf('%02d:%02d', intdiv($window->starts, 60), $window->starts % 60),
                'minutes' => $window?->minutes, 'zone' => $window === null ? null : $this->zone, 'why' => trim($this->why),
            ])->save();
        }
        foreach (array_diff_key(self::cut($vlans), $before) as $words) {
            $ledger->warn(
                'intent-cuts',
                $words,
                'Clients need it. A filter made from these rules leaves it open all the same.',
                field: 'to',
            );
        }
        if ($window !== null) {
            $ledger->warn(
                'no-clock-in-filter',
                'Filters on switches know no times: this rule is compared with nothing there',
                'It stands here for people, and for whoever keeps a filter with a clock.',
            );
        }
    }

    private function net(Ledger $ledger): Net
    {
        try {
            return Address::tryParse(trim($this->prefix)) instanceof Address
                ? Address::parse(trim($this->prefix))->in(Address::parse(trim($this->prefix))->family->bits())
                : Net::parse($this->prefix);
        } catch (NotUnderstood $e) {
            $ledger->refuse('not-a-prefix', $e->getMessage(), '', 'RFC 4632 §3.1', 'prefix', null, $e->suggestion);
        }
    }

    private function window(Ledger $ledger): Window
    {
        $days = array_values(array_filter(array_map(static fn (string $d): int => ctype_digit($d) ? (int) $d : 0, $this->days)));
        try {
            return Window::of(count($days) === count($this->days) ? $days : [], $this->starts, $this->minutes ?? 0, $this->zone);
        } catch (\InvalidArgumentException $e) {
            $ledger->refuse('bad-window', ucfirst($e->getMessage()), field: 'starts');
        }
    }

    /**
     * @param  Collection<int, Vlan>  $vlans
     * @return array<string, string> what rules deny though clients need it: key → words
     */
    private static function cut(Collection $vlans): array
    {
        $found = [];
        foreach (SwitchIntent::of($vlans) as $intent) {
            foreach ($intent->needs() as $need) {
                if (! $need['allows']) {
                    $found["{$intent->vlan->id} {$need['address']}"] = "{$intent->vlan->line()} is kept from {$need['address']}, "
                        .($need['resolver'] ? 'its resolver' : 'which leases to it');
                }
            }
        }

        return $found;
    }
}
