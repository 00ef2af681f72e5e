<?php

declare(strict_types=1);

namespace App\Models;

/** Where a grant holds. */
enum GrantPlace: string
{
    case Tenant = 'tenant';
    case Site = 'site';
    case Space = 'space';
    case Prefix = 'prefix';
    case Zone = 'zone';
    case Tag = 'tag';
    case Stage = 'stage';

    /** @return ?class-string<Model> null: it is told by a word that prefixes carry, not by an object */
    public function model(): ?string
    {
        return match ($this) {
            self::Tenant => Tenant::class,
            self::Site => Site::class,
            self::Space => Space::class,
            self::Prefix => Prefix::class,
            self::Zone => Zone::class,
            self::Tag, self::Stage => null,
        };
    }

    /** @return list<Ability> what can be done at such a place */
    public function abilities(): array
    {
        return match ($this) {
            self::Zone => [Ability::Look, Ability::Names],
            self::Tenant => Ability::cases(),
            // Not to plan space: who plans it says which prefixes carry the word.
            self::Tag, self::Stage => [Ability::Look, Ability::Hosts, Ability::Leases],
            self::Site, self::Space, self::Prefix => [Ability::Look, Ability::Hosts, Ability::Space, Ability::Leases],
        };
    }
}
