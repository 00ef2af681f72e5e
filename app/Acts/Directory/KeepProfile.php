<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\Layer2Domain;
use App\Models\PortProfile;
use App\Models\ProfilePort;
use App\Models\Vlan;

/** How ports of switches are meant to be set: a new profile, or one that changes with all its ports. */
final readonly class KeepProfile extends OnProfiles
{
    public function __construct(
        #[Field(Kind::Id, 'Layer-2 domain', of: Layer2Domain::class)]
        public string $domain,
        #[Field(Kind::Line, 'Name', most: 80)]
        public string $name,
        #[Field(Kind::Id, 'Native VLAN', 'Untagged', of: Vlan::class)]
        public string $native,
        #[Field(Kind::Id, 'Voice VLAN', of: Vlan::class)]
        public string $voice = '',
        #[Field(Kind::Flag, 'LLDP-MED', 'Phones are told the voice VLAN')]
        public bool $lldp = false,
        #[Field(Kind::Flag, 'Power', 'Over the cable')]
        public bool $poe = false,
        #[Field(Kind::Number, 'Priority', 'IEEE 802.1p, of the voice VLAN', most: 7, least: 0)]
        public ?int $priority = null,
        #[Field(Kind::Line, 'Description', most: 255)]
        public string $description = '',
        #[Field(Kind::NewId, 'Id', 'Of a new profile, or of the one that changes')]
        public string $id = '',
    ) {
    }

    public function title(): string
    {
        return (PortProfile::query()->whereKey($this->id)->exists() ? 'Change' : 'Make')." the port profile $this->name";
    }

    public function apply(Ledger $ledger): void
    {
        Guard::own("ports:$this->domain");
        $domain = Layer2Domain::query()->find($this->domain) ?? $ledger->refuse('gone', 'The layer-2 domain is not there any more');
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A profile needs a name', field: 'name');
        }
        if (PortProfile::query()->where('domain_id', $domain->id)->where('name', trim($this->name))->whereKeyNot($this->id)->exists()) {
            $ledger->refuse('name-taken', "\"$this->name\" is a profile in $domain->name already", field: 'name');
        }
        $profile = PortProfile::query()->find($this->id) ?? new PortProfile(['id' => $this->id]);
        if ($profile->exists && $profile->domain_id !== $domain->id) {
            $ledger->refuse('other-domain', 'A profile stays in its layer-2 domain', 'Make one there.', field: 'domain');
        }
        foreach (['native' => $this->native, 'voice' => $this->voice] as $field => $id) {
            $vlan = $id === '' ? null : Vlan::query()->find($id);
            if ($vlan !== null && $vlan->domain_id !== $domain->id) {
                $ledger->refuse('vlan-elsewhere', "VLAN {$vlan->line()} is in another layer-2 domain", field: $field);
            }
        }
        if ($this->voice === $this->native) {
            $ledger->refuse(
                'voice-is-native',
                'Voice has a VLAN of its own',
                'Leave it blank where phones and desks share one.',
                field: 'voice',
            );
        }
        if ($this->voice === '' && ($this->lldp || ($this->priority ?? 0) > 0)) {
            $ledger->refuse('no-voice', 'LLDP-MED and the priority are of the voice VLAN', 'Choose one.', field: 'voice');
        }
        if ($this->voice !== '' && ! $this->lldp) {
            $ledger->warn(
                'voice-untold',
                'Phones are not told their VLAN',
                'A phone that is not set by hand lands on the native VLAN. Tell it by LLDP-MED.',
                'ANSI/TIA-1057',
                'lldp',
            );
        }
        $profile->fill([
            'domain_id' => $domain->id, 'name' => trim($this->name), 'native_vlan_id' => $this->native,
            'voice_vlan_id' => $this->voice === '' ? null : $this->voice, 'lldp' => $this->lldp, 'poe' => $this->poe,
            'priority' => $this->priority ?? 0, 'description' => trim($this->description),
        ])->save();
        $ports = ProfilePort::query()->where('profile_id', $profile->id)->count();
        match (true) {
            $ports === 0 => null,
            $ports === 1 => $ledger->later('A port is set anew when it is shipped'),
            default => $ledger->later("$ports ports are set anew when they are shipped"),
        };
    }
}
