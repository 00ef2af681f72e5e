<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Models\PortProfile;

/** A profile is no more; what is set on its ports stays as it is. */
final readonly class RemoveProfile extends OnProfiles
{
    public function __construct(
        #[Field(Kind::Id, 'Profile', of: PortProfile::class)]
        public string $profile,
    ) {
    }

    public function title(): string
    {
        return 'Remove the port profile '.(PortProfile::query()->find($this->profile)->name ?? '');
    }

    public function apply(Ledger $ledger): void
    {
        $profile = PortProfile::query()->with('ports')->find($this->profile)
            ?? $ledger->refuse('gone', 'The profile is not there any more');
        Guard::own("ports:$profile->domain_id");
        foreach ($profile->ports as $port) {
            $port->setRelation('profile', $profile)->delete();
        }
        $profile->delete();
    }
}
