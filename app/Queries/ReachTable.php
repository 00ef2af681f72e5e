<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Vlan;
use App\Models\VlanIntent;
use HarborPost\Core\Net\PrefixSet;
use Illuminate\Database\Eloquent\Collection;

/** From each VLAN to each: what rules of any kind together make of it, not only those that name the two. */
final class ReachTable
{
    /**
     * @param  Collection<int, Vlan>  $vlans
     * @param  Collection<int, VlanIntent>  $rules
     * @return array<string, array<string, array{state: 'open'|'shut'|'part'|'times', rule: ?VlanIntent, said: bool}>> from → to → cell;
     *     said: by a rule that names both
     */
    public static function of(Collection $vlans, Collection $rules): array
    {
        $ids = array_values(array_map(strval(...), $vlans->modelKeys()));
        $intents = Intents::of($ids);
        $subnets = Prefix::query()->whereIn('vlan_id', $ids)->where('kind', PrefixKind::Subnet)->get()->groupBy('vlan_id');
        $sets = [];
        foreach ($ids as $id) {
            $sets[$id] = PrefixSet::of(...($subnets[$id] ?? new Collection)->map(static fn (Prefix $p) => $p->prefix())->all());
        }
        $table = [];
        foreach ($rules as $rule) {
            if ($rule->to_vlan_id !== null) {
                $table[$rule->vlan_id][$rule->to_vlan_id] = [
                    'state' => $rule->days !== null ? 'times' : ($rule->allows ? 'open' : 'shut'), 'rule' => $rule, 'said' => true,
                ];
            }
        }
        foreach ($intents as $from => $intent) {
            $denied = $intent->denials(PrefixSet::of());
            $timed = PrefixSet::of(...array_merge(...array_map(static fn ($r): array => $r->to, $intent->timed()), ...[[]]));
            foreach ($ids as $to) {
                $state = self::state($sets[$to], $denied, $timed);
                if ($to !== $from && $state !== 'open') {
                    $table[$from][$to] ??= ['state' => $state, 'rule' => null, 'said' => false];
                }
            }
        }

        return $table;
    }

    /** @return 'open'|'shut'|'part'|'times' */
    private static function state(PrefixSet $to, PrefixSet $denied, PrefixSet $timed): string
    {
        return match (true) {
            $to->isEmpty() => 'open',
            ! $to->intersection($timed)->isEmpty() => 'times',
            $to->difference($denied)->isEmpty() => 'shut',
            ! $to->intersection($denied)->isEmpty() => 'part',
            default => 'open',
        };
    }
}
