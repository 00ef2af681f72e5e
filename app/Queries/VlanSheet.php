<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\PortProfile;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Stage;
use App\Models\SwitchVlan;
use App\Models\Vlan;
use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/**
 * For each VLAN the places where it has to be right: subnet, gateway, scope, relay, filter, ports, name on the switch. Each is present,
 * missing or different, with the act that mends it where this application can.
 */
final class VlanSheet
{
    public const COLUMNS = [
        'subnet' => 'Subnet', 'gateway' => 'Gateway', 'scope' => 'Scope', 'relay' => 'Relay', 'reach' => 'May reach', 'filter' => 'Filter',
        'ports' => 'Ports', 'lease' => 'Last lease', 'switch' => 'On the switch',
    ];

    /** VLANs that are judged at once where all are. */
    private const PAGE = 500;

    /**
     * @param  Collection<int, Vlan>  $vlans  with domain and its site
     * @return array<string, array<string, array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string,
     *     act: ?array{0: string, 1: array<string, string>, 2: string}}>> vlan → column → cell
     */
    public static function of(Collection $vlans, Reach $reach): array
    {
        $subnets = $reach->prefixes()->whereIn('vlan_id', $vlans->modelKeys())->where('kind', PrefixKind::Subnet)
            ->orderBy('family')->orderBy('first')->get()->groupBy('vlan_id');
        $switches = SwitchVlan::query()->whereIn('domain_id', $vlans->pluck('domain_id')->unique())->get()
            ->keyBy(fn (SwitchVlan $s): string => "$s->domain_id $s->number");
        $sheet = [];
        $intents = SwitchIntent::of($vlans);
        $leased = self::lastLeases($intents);
        $profiles = self::profiles($vlans);
        $network = Server::query()->where('kind', ServerKind::Network)->whereNotNull('control')->orderBy('name')->value('id');
        foreach ($vlans as $vlan) {
            $set = $network === null
                || ! $reach->isWhole() ? null : [at('ship.server', $network), ['only' => $vlan->id], 'set it on the switch'];
            $own = $subnets[$vlan->id] ?? new Collection;
            $four = $own->firstWhere('family', 4);
            $switch = $switches["$vlan->domain_id $vlan->number"] ?? null;
            $intent = $intents[$vlan->id];
            // What is meant is computed from all subnets; what is shown are those that the person may see.
            $scope = $four !== null && $intent->subnet?->is($four) === true ? $intent->scope : null;
            $sheet[$vlan->id] = [
                'subnet' => self::subnet($vlan, $own),
                'gateway' => self::gateway($four ?? $own->first(), $switch, $set),
                'scope' => self::scope($four, $scope, $switch),
                'relay' => self::relay($scope, $switch, $set), 'reach' => self::reach($intent),
                'filter' => self::filter($intent, $switch, $set),
                'ports' => self::ports($four ?? $own->first(), $switch, $profiles[$vlan->id] ?? null),
                'lease' => self::lease($scope, $leased),
                'switch' => self::name($vlan, $switch, $set),
            ];
        }

        return $sheet;
    }

    /**
     * @param  array<string, array<string, array{state: string, words: string, link: ?string, act: mixed}>>  $sheet
     * @return list<string> ids of the VLANs with something missing or different
     */
    public static function wrong(array $sheet): array
    {
        return array_keys(
            array_filter(
                $sheet,
                fn (array $cells): bool => array_filter(
                    array_diff_key($cells, ['lease' => true]),
                    fn (array $c): bool => in_array($c['state'], ['missing', 'differs'], true),
                ) !== [],
            ),
        );
    }

    /** @return list<string> ids of all VLANs with something missing or different that somebody may see */
    public static function wrongOf(Reach $reach): array
    {
        $wrong = [];
        $reach->vlans()->with('domain.site')->chunkById(self::PAGE, function (Collection $some) use (&$wrong, $reach): void {
            array_push($wrong, ...self::wrong(self::of($some, $reach)));
        });

        return $wrong;
    }

    /**
     * @param  Collection<int, Prefix>  $own
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function subnet(Vlan $vlan, Collection $own): array
    {
        if ($own->isEmpty()) {
            return self::cell('missing', 'no subnet', at('directory.vlan', $vlan->id).'#assign');
        }
        $elsewhere = $own->first(
            fn (Prefix $p): bool => $p->site_id !== null && $vlan->domain->site_id !== null && $p->site_id !== $vlan->domain->site_id,
        );

        $first = $own->firstOrFail();

        return $elsewhere !== null ? self::cell('differs', "{$elsewhere->prefix()} is at another site", at('plan.prefix', $elsewhere->id))
            : self::cell('present', $first->prefix().($own->count() > 1 ? ' +'.($own->count() - 1) : ''), at('plan.prefix', $first->id));
    }

    /**
     * @param  ?array{string, array<string, string>, string}  $set  act, its inputs and what it says
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function gateway(?Prefix $subnet, ?SwitchVlan $switch, ?array $set): array
    {
        if ($subnet === null) {
            return self::cell('idle', '');
        }
        $planned = $subnet->gateway;
        $real = $switch?->gateway;
        $page = at('plan.prefix', $subnet->id);
        $fits = $real !== null && $subnet->prefix()->usable()->contains($real);
        $take = $fits ? ['change-prefix', ['prefixes[]' => $subnet->id, 'gateway' => (string) $real], "take $real"] : null;

        return match (true) {
            $planned === null && $real === null => self::cell('missing', 'none planned, none on the switch', $page),
            $planned === null => self::cell('missing', "none planned; the switch has $real", $page, $take),
            $real === null => self::cell('missing', "$planned planned; no interface on the switch", $page, $set),
            ! $planned->equals($real) => self::cell('differs', "planned $planned, on the switch $real", $page, $take),
            default => self::cell('present', (string) $planned, $page),
        };
    }

    /**
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function scope(?Prefix $subnet, ?Scope $scope, ?SwitchVlan $switch): array
    {
        return match (true) {
            $subnet === null => self::cell('idle', ''),
            $scope !== null => self::cell('present', 'leases', at('lease.scope', $scope->id)),
            $subnet->stage !== Stage::Live => self::cell('idle', "subnet is {$subnet->stage->value}"),
            // Relays on the switch say that leasing was meant; without them the link has fixed addresses only.
            $switch !== null && $switch->relays !== [] => self::cell(
                'missing',
                'no scope, though the switch relays',
                at('lease')."?make=$subnet->id",
            ),
            default => self::cell('idle', 'none, fixed addresses'),
        };
    }

    /**
     * @param  ?array{string, array<string, string>, string}  $set  act, its inputs and what it says
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function relay(?Scope $scope, ?SwitchVlan $switch, ?array $set): array
    {
        if ($scope === null) {
            return $switch !== null
                && $switch->relays !== []
                    ? self::cell('differs', 'relays to '.implode(', ', $switch->relays).' without a scope', null, $set)
                    : self::cell('idle', '');
        }
        $needed = array_values(array_filter(array_map(fn ($p): string => (string) $p->server->address, $scope->placements->all())));
        $has = $switch->relays ?? [];
        $missing = array_diff($needed, $has);
        $extra = array_diff($has, $needed);
        $link = at('lease.scope', $scope->id);

        return match (true) {
            $needed === [] => self::cell('missing', 'the scope is on no server', $link),
            $switch === null || $has === [] => self::cell('missing', 'no relay to '.implode(', ', $needed), $link, $set),
            $missing !== [] => self::cell(
                'differs',
                'no relay to '.implode(', ', $missing).($extra === [] ? '' : ', but to '.implode(', ', $extra)),
                $link,
                $set,
            ),
            $extra !== [] => self::cell('differs', 'also relays to '.implode(', ', $extra), $link, $set),
            default => self::cell('present', count($needed) === 1 ? $needed[0] : 'to all '.count($needed), $link),
        };
    }

    /**
     * @param  ?array{string, array<string, string>, string}  $set  act, its inputs and what it says
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function name(Vlan $vlan, ?SwitchVlan $switch, ?array $set): array
    {
        return match (true) {
            $switch === null => self::cell('missing', 'not on the switch', null, $set),
            $switch->name !== $vlan->name => self::cell(
                'differs',
                "there it is $switch->name",
                null,
                ['change-vlan', ['vlan' => $vlan->id, 'name' => $switch->name], "take $switch->name"],
            ),
            default => self::cell('present', 'same name'),
        };
    }

    /**
     * Clients must reach their resolvers and the servers that lease to them; a denial on the switch that covers one is a fault.
     *
     * @param  ?array{0: string, 1: array<string, string>, 2: string}  $set
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function filter(SwitchIntent $intent, ?SwitchVlan $switch, ?array $set): array
    {
        if ($switch?->denies === null) {
            return self::cell('idle', $switch === null ? '' : 'not read');
        }
        $filtered = $switch->denies === [] ? ['denied' => []] : $intent->filtered($switch->denies);
        $meant = $intent->denials();
        $over = $meant === null ? [] : Intents::apart($switch->denies, $meant);
        $open = $meant === null ? [] : Intents::apart($meant, $switch->denies);
        if ($filtered['denied'] === [] && ($over !== [] || $open !== [])) {
            return self::cell('differs', implode('; ', array_filter([
                $open === [] ? '' : 'leaves open '.implode(', ', array_slice($open, 0, 3)).(count($open) > 3 ? ' and more' : ''),
                $over === [] ? '' : 'denies '.implode(', ', array_slice($over, 0, 3)).(count($over) > 3 ? ' and more' : '').' besides',
            ])), null, $set);
        }

        return $filtered['denied'] === [] ? self::cell(
            'present',
            match (true) {
                $meant !== null => $meant === [] ? 'denies nothing, as meant' : 'denies what is meant',
                $switch->denies === [] => 'denies nothing',
                default => 'denies '.count($switch->denies).', none needed',
            },
        )
            : self::cell('differs', implode(', ', $filtered['denied']).' is needed and denied', null, $set);
    }

    /**
     * When a client of each scope was last leased to or renewed, as its servers said when they were read.
     *
     * @param  array<string, SwitchIntent>  $intents
     * @return array<string, array{CarbonImmutable, ?CarbonImmutable}> scope → the last lease, and when its servers were read last
     */
    private static function lastLeases(array $intents): array
    {
        $scopes = array_values(array_filter(array_map(static fn (SwitchIntent $i): ?string => $i->scope?->id, $intents)));

        $read = DB::table('scope_servers')->join('server_states', 'server_states.server_id', '=', 'scope_servers.server_id')
            ->whereIn('scope_id', $scopes)->groupBy('scope_id')->selectRaw('scope_id, MAX(leases_read_at) AS at')->pluck('at', 'scope_id');

        return DB::table('leases')->whereIn('scope_id', $scopes)->groupBy('scope_id')->selectRaw('scope_id, MAX(starts_at) AS at')
            ->pluck('at', 'scope_id')->map(static fn (mixed $at, string $scope): array => [
                CarbonImmutable::parse((string) $at),
                isset($read[$scope]) ? CarbonImmutable::parse((string) $read[$scope]) : null,
            ])->all();
    }

    /**
     * A link on which nobody had renewed for longer than two whole leases when its servers were read is quiet: nobody is there, or nobody
     * gets through. That is for people to know, and no fault.
     *
     * @param  array<string, array{CarbonImmutable, ?CarbonImmutable}>  $leased
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function lease(?Scope $scope, array $leased): array
    {
        [$at, $read] = $scope === null ? [null, null] : $leased[$scope->id] ?? [null, null];
        $link = $scope === null ? null : at('lease.leases')."?scope=$scope->id";

        return match (true) {
            $scope === null || $scope->stage !== Stage::Live => self::cell('idle', ''),
            $at === null => self::cell('idle', 'none was ever seen', $link),
            $scope->lease_time !== Scope::INFINITE && $read !== null && $at->addSeconds(2 * $scope->lease_time) < $read => self::cell(
                'differs',
                "quiet: {$at->diffForHumans()}",
                $link,
            ),
            default => self::cell('present', $at->diffForHumans(), $link),
        };
    }

    /**
     * What clients need has to be open by the rules, whatever a filter does.
     *
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function reach(SwitchIntent $intent): array
    {
        if ($intent->reach === null) {
            return self::cell('idle', 'nothing said');
        }
        $link = at('directory.vlan', $intent->vlan->id).'#reach';
        $shut = array_column(array_filter($intent->needs(), static fn (array $n): bool => ! $n['allows']), 'address');
        $rules = count($intent->reach->rules);

        return $shut === []
            ? self::cell('present', $rules === 1 ? '1 rule' : "$rules rules", $link)
            : self::cell('differs', implode(', ', $shut).' is needed and not allowed', $link);
    }

    /**
     * @param  Collection<int, Vlan>  $vlans
     * @return array<string, array{int, int, string}> VLAN → ports that lack a profile which carries it, ports that have it, domain
     */
    private static function profiles(Collection $vlans): array
    {
        $profiles = PortProfile::query()->with(['native', 'voice', 'ports'])
            ->whereIn('domain_id', $vlans->pluck('domain_id')->unique()->values())->get();
        $found = [];
        foreach ($profiles->isEmpty() ? [] : PortChecks::of($profiles) as $id => $check) {
            $profile = $profiles->find($id);
            foreach (array_filter([$profile?->native_vlan_id, $profile?->voice_vlan_id]) as $vlan) {
                $found[$vlan] ??= [0, 0, (string) $profile?->domain_id];
                $found[$vlan][0] += count($check['lacking']) + count($check['unknown']);
                $found[$vlan][1] += count($check['right']);
            }
        }

        return $found;
    }

    /**
     * @param  ?array{int, int, string}  $profiled
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function ports(?Prefix $subnet, ?SwitchVlan $switch, ?array $profiled): array
    {
        [$lacking, $right, $domain] = $profiled ?? [0, 0, ''];

        return match (true) {
            $lacking > 0 => self::cell(
                'differs',
                "$lacking of ".($lacking + $right).' lack their profile',
                at('directory.ports')."?domain=$domain",
            ),
            $switch?->ports === null => self::cell('idle', $switch === null ? '' : 'not read'),
            $switch->ports === 0 && $subnet?->stage === Stage::Live => self::cell('missing', 'no port carries it', null),
            default => self::cell('present', $switch->ports === 1 ? '1 port' : "$switch->ports ports"),
        };
    }

    /**
     * @param  'present'|'missing'|'differs'|'idle'  $state
     * @param  ?array{0: string, 1: array<string, string>, 2: string}  $act  act, its fields, what the button says
     * @return array{state: 'present'|'missing'|'differs'|'idle', words: string, link: ?string, act: ?array{0: string, 1: array<string,
     *     string>, 2: string}}
     */
    private static function cell(string $state, string $words, ?string $link = null, ?array $act = null): array
    {
        return ['state' => $state, 'words' => $words, 'link' => $link, 'act' => $act];
    }

    /**
     * Numbers that stand in two domains which seem to be one network: of one site, or with the same name and one of them without a site.
     *
     * @return list<array{Vlan, Vlan}>
     */
    public static function duplicates(Reach $reach): array
    {
        $found = [];
        $numbers = $reach->vlans()->groupBy('number')->havingRaw('COUNT(*) > 1')->orderBy('number')->limit(400)->pluck('number');
        foreach (
            $reach->vlans()->with('domain.site')->whereIn('number', $numbers)->orderBy('number')->orderBy('domain_id')
                ->get()->groupBy('number') as $same
        ) {
            foreach ($same as $i => $one) {
                foreach ($same->slice($i + 1) as $other) {
                    $site = $one->domain->site_id;
                    $oneNetwork = $site !== null && $site === $other->domain->site_id;
                    $trunk = ($site === null) !== ($other->domain->site_id === null)
                        && $one->name === $other->name
                        && self::near($one, $other);
                    $oneNetwork || $trunk ? $found[] = $site === null ? [$other, $one] : [$one, $other] : null;
                }
            }
        }

        return $found;
    }

    /** A domain without a site belongs to the site that its name or the VLAN's description names. */
    private static function near(Vlan $one, Vlan $other): bool
    {
        [$sited, $loose] = $one->domain->site_id === null ? [$other, $one] : [$one, $other];
        $site = (string) $sited->domain->site?->name;

        return $site !== '' && (stripos($loose->domain->name.' '.$loose->description, $site) !== false);
    }
}
