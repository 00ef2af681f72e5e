<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\PortProfile;
use App\Models\ProfilePort;
use App\Models\SwitchPort;
use HarborPost\Core\Planning\PortList;
use Illuminate\Support\Str;

/** Ports of a switch are meant to have a profile; one that had another has this one from now on. */
final readonly class GiveProfile extends OnProfiles
{
    public function __construct(
        #[Field(Kind::Id, 'Profile', of: PortProfile::class)]
        public string $profile,
        #[Field(Kind::Line, 'Switch', 'As it calls itself', most: 60)]
        public string $device,
        #[Field(Kind::Line, 'Ports', '1-24, gi1/0/7-8', most: 2000, example: '1-24')]
        public string $ports,
        #[Field(Kind::Flag, 'Take away', 'The ports are meant to have no profile any more')]
        public bool $away = false,
    ) {
    }

    public function title(): string
    {
        return ($this->away ? 'Take a profile from ports of ' : 'Give a profile to ports of ').$this->device;
    }

    public function apply(Ledger $ledger): void
    {
        $profile = PortProfile::query()->find($this->profile) ?? $ledger->refuse('gone', 'The profile is not there any more');
        Guard::own("ports:$profile->domain_id");
        $device = trim($this->device);
        if ($device === '') {
            $ledger->refuse('no-device', 'Write the switch', field: 'device');
        }
        try {
            $ports = PortList::parse($this->ports);
        } catch (\InvalidArgumentException $e) {
            $ledger->refuse('bad-ports', ucfirst($e->getMessage()), field: 'ports');
        }
        $now = ProfilePort::query()->with('profile')->where('domain_id', $profile->domain_id)->where('device', $device)
            ->whereIn('port', $ports)->get()->keyBy('port');
        if ($this->away) {
            $mine = $now->where('profile_id', $profile->id);
            if ($mine->isEmpty()) {
                $ledger->refuse('no-such-ports', "None of these ports of $device has the profile $profile->name", field: 'ports');
            }
            foreach ($mine as $row) {
                $row->delete();
            }
            $ledger->later('What is set on them stays until somebody sets them');

            return;
        }
        $this->sayUnknown($ledger, $profile, $device, $ports);
        $others = [];
        foreach ($ports as $port) {
            $row = $now[$port] ?? new ProfilePort([
                'id' => (string) Str::ulid(), 'domain_id' => $profile->domain_id, 'device' => $device, 'port' => $port,
            ]);
            if ($row->exists && $row->profile_id !== $profile->id) {
                $others[$row->profile->name][] = $port;
            }
            $row->profile_id = $profile->id;
            $row->setRelation('profile', $profile)->save();
        }
        foreach ($others as $name => $had) {
            $ledger->warn('had-profile', PortList::shorten($had)." had the profile $name", 'One port has one profile.', field: 'ports');
        }
    }

    /** @param  list<string>  $ports */
    private function sayUnknown(Ledger $ledger, PortProfile $profile, string $device, array $ports): void
    {
        if (SwitchPort::query()->where('domain_id', $profile->domain_id)->doesntExist()) {
            return;
        }
        $known = SwitchPort::query()->where('domain_id', $profile->domain_id)->where('device', $device)->whereIn('port', $ports)
            ->pluck('port')->all();
        $unknown = array_values(array_diff($ports, array_map(strval(...), $known)));
        if ($unknown !== []) {
            $ledger->warn(
                'port-unknown',
                "$device has no port ".PortList::shorten($unknown).' as it was read last',
                'They are planned all the same, and waited for.',
                field: 'ports',
            );
        }
    }
}
