<?php

declare(strict_types=1);

namespace App\Acts\Plan;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Domain\Plan\Labels;
use App\Domain\Plan\Leader;
use App\Domain\Plan\Tree;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Site;
use App\Models\Space;
use App\Models\Stage;
use App\Models\Tenant;
use App\Models\Vlan;
use App\Queries\Granted;
use App\Queries\Inherited;
use App\Queries\OpenBlocks;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix as Net;
use HarborPost\Core\Planning\Fit;

/** A prefix is set aside: written down by itself, or as the next open one of a length in a supernet. */
final readonly class CarvePrefix extends Act
{
    public const HABIT = 'habit';

    public function __construct(
        #[Field(Kind::Id, 'Space', of: Space::class)]
        public string $space,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Prefix', 'Blank: the next open one of $length in $in', most: 80)]
        public string $prefix = '',
        #[Field(Kind::Id, 'Supernet', of: Prefix::class)]
        public string $in = '',
        #[Field(Kind::Number, 'Length', most: 128, least: 0)]
        public ?int $length = null,
        #[Field(Kind::Choice, 'Fit', choices: ['best', 'first', 'room'])]
        public string $fit = 'best',
        #[Field(Kind::Choice, 'Kind', choices: ['supernet', 'subnet', 'pool'])]
        public string $kind = 'subnet',
        #[Field(Kind::Choice, 'Stage', choices: ['planned', 'live', 'retiring', 'withheld'])]
        public string $stage = 'planned',
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name = '',
        #[Field(Kind::Id, 'Site', of: Site::class)]
        public string $site = '',
        #[Field(Kind::Id, 'Tenant', of: Tenant::class)]
        public string $tenant = '',
        #[Field(Kind::Id, 'VLAN', of: Vlan::class)]
        public string $vlan = '',
        #[Field(Kind::Line, 'Gateway', '"habit" takes what the place hands down; first, last, an address; blank for none', most: 60)]
        public string $gateway = '',
        #[Field(Kind::Line, 'Role', most: 60)]
        public string $role = '',
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
        #[Field(Kind::Line, 'Origin', most: 255)]
        public string $origin = '',
        #[Field(Kind::Line, 'Allocated on', 'The day it was allocated, as 2026-03-31', most: 20)]
        public string $originOn = '',
        #[Field(Kind::Line, 'Handle', most: 60)]
        public string $originHandle = '',
        #[Field(Kind::Line, 'Tags', 'Apart by commas', most: 1000)]
        public string $tags = '',
        /** @var array<string, string> own field → value */
        #[Field(Kind::Map, 'Own fields', most: 255)]
        public array $own = [],
    ) {
    }

    public function title(): string
    {
        return trim('Carve '.($this->name ?: $this->kind).', '.($this->prefix ?: "the next open /$this->length"), ' ,');
    }

    public static function may(Person $person): bool
    {
        return Granted::plans($person);
    }

    public function landing(): string
    {
        return at('plan.prefix', $this->id);
    }

    public function apply(Ledger $ledger): void
    {
        $space = Space::query()->find($this->space) ?? $ledger->refuse('no-space', 'There is no such space', field: 'space');
        $kind = PrefixKind::tryFrom($this->kind);
        if ($kind === null || Stage::tryFrom($this->stage) === null) {
            $ledger->refuse(
                'bad-kind',
                'The kind is supernet, subnet or pool; the stage planned, live, retiring or withheld',
                field: 'kind',
            );
        }
        $groups = $kind->groups();
        [$net, $parent] = $this->place($ledger, $space, $groups);
        Tree::check($ledger, $space, $net, $groups, pool: $kind === PrefixKind::Pool);
        $row = new Prefix([
            'id' => $this->id, 'space_id' => $space->id, 'family' => $net->family()->value, 'first' => $net->first,
            'length' => $net->length, 'groups' => $groups,
            'parent_id' => $parent?->id, 'kind' => $kind, 'stage' => $this->stage, 'name' => $this->name, 'role' => $this->role,
            'description' => $this->description, 'site_id' => $this->site ?: null, 'tenant_id' => $this->tenant ?: null,
            'vlan_id' => $this->vlan ?: null,
        ]);
        $row->gateway = strtolower(trim($this->gateway)) === self::HABIT
            ? self::habitual($ledger, $row)
            : self::gateway($ledger, $net, $this->gateway, $kind);
        self::links($ledger, $row);
        Labels::origin(
            $ledger,
            $row,
            $this->origin === '' ? null : $this->origin,
            $this->originOn,
            $this->originHandle === '' ? null : $this->originHandle,
        );
        $this->tags === '' ?: Labels::tag($ledger, $row, $this->tags);
        Labels::own($ledger, $row, $this->own);
        Leader::say($ledger, $space->id, $net);
        Tree::insert($row, $parent);
        $this->tags === '' ?: Labels::index($row);
        self::sayHabit($ledger, $row);
        $ledger->made += ['prefix' => $row->id, 'net' => (string) $net];
    }

    /** @return array{Net, ?Prefix} */
    private function place(Ledger $ledger, Space $space, bool $groups): array
    {
        if ($this->prefix !== '') {
            $net = self::read($ledger, $this->prefix);
            $ledger->passed('aligned', "Starts on a /$net->length boundary", 'RFC 4632 §3.1');

            return [$net, Tree::lockParent($space, $net, $groups)];
        }
        $parent = Prefix::query()->where('space_id', $space->id)->where('groups', true)->find($this->in)
            ?? $ledger->refuse('no-parent', 'Choose a supernet to carve from, or write the prefix', field: 'in');
        $length = $this->length ?? -1;
        if ($length < $parent->length || $length > $parent->prefix()->family()->bits()) {
            $ledger->refuse(
                'bad-length',
                "A length from $parent->length to {$parent->prefix()->family()->bits()} fits into {$parent->prefix()}",
                field: 'length',
            );
        }
        Tree::lock($space, $parent);
        $net = OpenBlocks::next($parent, $length, Fit::tryFrom($this->fit) ?? Fit::Best);
        if ($net === null) {
            $largest = OpenBlocks::largest($parent);
            $ledger->refuse(
                'no-room',
                "No open /$length is left in {$parent->line()}",
                $largest === null ? 'Nothing is open there.' : "The largest open block is $largest.",
                null,
                'length',
                at('plan.prefix', $parent->id),
            );
        }

        return [$net, $parent];
    }

    /** Stops on host bits and offers the right network. */
    public static function read(Ledger $ledger, string $text): Net
    {
        try {
            return Net::parse($text);
        } catch (NotUnderstood $e) {
            $ledger->refuse(
                'not-a-prefix',
                $e->getMessage(),
                $e->suggestion === null ? '' : 'A prefix starts at its network address.',
                'RFC 4632 §3.1',
                'prefix',
                null,
                $e->suggestion,
            );
        }
    }

    /** What settings hand down to the place; a pair of addresses or a single one has nobody to be a gateway for. */
    private static function habitual(Ledger $ledger, Prefix $row): ?Address
    {
        $net = $row->prefix();
        $isLink = $row->kind === PrefixKind::Subnet && $net->length < $net->family()->bits() - 1;
        $gateway = $isLink ? app(Inherited::class)->gatewayOf($row) : null;
        if ($gateway !== null) {
            $ledger->passed('gateway-habit-taken', "The gateway is $gateway, by the habit of the place");
        }

        return $gateway;
    }

    public static function gateway(Ledger $ledger, Net $net, string $text, PrefixKind $kind): ?Address
    {
        $text = in_array(strtolower(trim($text)), ['first', 'last'], true)
            ? ($kind === PrefixKind::Subnet ? (string) Inherited::gatewayBy(strtolower(trim($text)), $net) : '')
            : $text;
        if ($text === '') {
            return null;
        }
        try {
            $gateway = Address::parse(trim($text));
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-gateway', $e->getMessage(), field: 'gateway');
        }
        if ($kind !== PrefixKind::Subnet) {
            $ledger->refuse('gateway-without-link', "A $kind->value has no gateway; a subnet has", field: 'gateway');
        }
        if (! $net->usable()->contains($gateway)) {
            $ledger->refuse(
                'gateway-outside',
                "The gateway $gateway is not a usable address of $net",
                "Usable are {$net->usable()}.",
                null,
                'gateway',
                null,
                (string) $net->usable()->first,
            );
        }
        $ledger->passed('gateway-inside', "The gateway $gateway is a usable address of $net");

        return $gateway;
    }

    /** Gateways are not always the first or the last address: one that differs from the habit of the place is said, not refused. */
    public static function sayHabit(Ledger $ledger, Prefix $row): void
    {
        foreach (
            $row->gateway === null
                ? []
                : \App\Models\Scope::query()->with('ranges')->where('prefix_id', $row->id)->first()->ranges ?? [] as $range
        ) {
            if ($row->gateway !== null && $range->range()->contains($row->gateway)) {
                $ledger->refuse(
                    'gateway-in-range',
                    "The gateway $row->gateway is inside the dynamic range {$range->range()}",
                    'A server would lease it out. Shorten the range first, or choose another gateway.',
                    null,
                    'gateway',
                    at('lease.scope', $range->scope_id),
                );
            }
        }
        if ($row->gateway === null || ! $row->isSubnet() || $row->prefix()->usable()->size()->isLessThanOrEqualTo(2)) {
            return;
        }
        $habit = app(Inherited::class)->of($row)['gateway'];
        $usual = Inherited::gatewayBy($habit['value'][0] ?? 'first', $row->prefix());
        if ($habit['origin'] !== null && $usual !== null && ! $usual->equals($row->gateway)) {
            $ledger->warn(
                'gateway-habit',
                "The habit of {$habit['origin']['label']} is $usual",
                'The gateway differs from it.',
                null,
                'gateway',
                $habit['origin']['link'],
            );
        }
    }

    /** The VLAN's domain belongs to the same site, and what is named is there. */
    public static function links(Ledger $ledger, Prefix $row): void
    {
        if ($row->site_id !== null && Site::query()->find($row->site_id) === null) {
            $ledger->refuse('no-site', 'There is no such site', field: 'site');
        }
        if ($row->vlan_id === null) {
            return;
        }
        $vlan = Vlan::query()->with('domain.site')->find($row->vlan_id)
            ?? $ledger->refuse('no-vlan', 'There is no such VLAN', field: 'vlan');
        if ($row->site_id !== null && $vlan->domain->site_id !== null && $vlan->domain->site_id !== $row->site_id) {
            $ledger->warn(
                'vlan-other-site',
                "VLAN {$vlan->line()} belongs to {$vlan->domain->site?->name}",
                'The subnet is at another site.',
                field: 'vlan',
            );
        }
    }
}
