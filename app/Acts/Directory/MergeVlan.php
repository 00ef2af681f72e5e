<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\PortProfile;
use App\Models\Prefix;
use App\Models\Role;
use App\Models\Vlan;
use App\Models\VlanIntent;
use App\Queries\Intents;

/**
 * Two entries of one VLAN become one: subnets of the other come to the one that stays. Without one that stays, an unused VLAN is removed.
 */
final readonly class MergeVlan extends Act
{
    public function __construct(
        #[Field(Kind::Id, 'VLAN', 'The one that goes', of: Vlan::class)]
        public string $vlan,
        #[Field(Kind::Id, 'VLAN that stays', 'The one that stays; blank removes the VLAN if no subnet uses it', of: Vlan::class)]
        public string $into = '',
    ) {
    }

    public function title(): string
    {
        $line = Vlan::query()->find($this->vlan)?->line() ?? '';

        return $this->into === ''
            ? "Remove VLAN $line"
            : "Merge VLAN $line into ".(Vlan::query()->with('domain')->find($this->into)?->domain->name ?? 'another');
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
        $goes = Vlan::query()->with('domain')->lockForUpdate()->find($this->vlan)
            ?? $ledger->refuse('gone', 'The VLAN is not there any more');
        $stays = $this->into === ''
            ? null
            : (
                Vlan::query()->with('domain')->find($this->into)
                    ?? $ledger->refuse('gone', 'The VLAN that should stay is not there any more')
            );
        if ($stays?->id === $goes->id) {
            $ledger->refuse('same', 'A VLAN cannot be merged into itself');
        }
        $used = Prefix::query()->where('vlan_id', $goes->id)->orderBy('first')->get();
        if ($stays === null && $used->isNotEmpty()) {
            $ledger->refuse(
                'in-use',
                "{$used->count()} subnets use VLAN {$goes->line()}: "
                    .$used->take(4)->map(fn (Prefix $p): string => $p->line())->implode(', '),
                'Assign them to another VLAN first.',
                null,
                null,
                at('directory.vlan', $goes->id),
            );
        }
        foreach ($used as $prefix) {
            $prefix->vlan_id = $stays?->id;
            $prefix->save();
        }
        if ($stays !== null && $stays->number !== $goes->number) {
            $ledger->warn('other-number', "VLAN $goes->number becomes $stays->number", 'The switches have to follow.');
        }
        $profile = PortProfile::query()->where('native_vlan_id', $goes->id)->orWhere('voice_vlan_id', $goes->id)->first();
        if ($profile !== null) {
            $ledger->refuse(
                'in-profile',
                "The port profile $profile->name carries it",
                'Change the profile first.',
                link: at('directory.ports'),
            );
        }
        $this->intents($ledger, $goes, $stays);
        $goes->delete();
    }

    /** Rules of what clients may reach follow to the VLAN that stays; those that stand there already, or mean nothing any more, go. */
    private function intents(Ledger $ledger, Vlan $goes, ?Vlan $stays): void
    {
        $rows = Intents::naming([$goes->id]);
        $gone = 0;
        foreach ($rows as $row) {
            $from = $row->vlan_id === $goes->id ? $stays?->id : $row->vlan_id;
            $to = $row->to_vlan_id === $goes->id ? $stays?->id : $row->to_vlan_id;
            $there = VlanIntent::query()->where('vlan_id', $from)->where('to_key', $to ?? $row->to_prefix)->exists();
            if ($from === null || $row->to_vlan_id !== null && $to === null || $from === $to || $there) {
                $row->delete();
                $gone++;
            } else {
                $row->toward($to, $row->to_prefix)->fill(['vlan_id' => $from])->save();
            }
        }
        $gone === 0 ?: $ledger->warn(
            'intents-go',
            $gone === 1 ? 'A rule of what clients may reach goes with it' : "$gone rules of what clients may reach go with it",
            '',
            link: at('directory.reach'),
        );
    }
}
