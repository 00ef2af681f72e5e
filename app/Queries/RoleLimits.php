<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Person;
use App\Models\Power;
use App\Models\Role;
use App\Models\RoleLimit;

/** What roles do not do here, though they come with it. Read once, and forgotten when an act ends. */
final class RoleLimits
{
    /** @var ?array<string, list<string>> role → powers */
    private ?array $withheld = null;

    /** @return array<string, list<string>> role → powers that were taken away */
    public function all(): array
    {
        return $this->withheld ??= RoleLimit::query()->get()->mapWithKeys(
            static fn (RoleLimit $l): array => [$l->role->value => $l->withheld],
        )->filter(static fn (array $powers): bool => $powers !== [])->all();
    }

    /**
     * Somebody with those of their roles alone that still have the power: whoever asks what they may asks about these. What is granted to
     * them stays.
     */
    public static function narrow(Person $person, ?Power $power): Person
    {
        $limits = $power === null ? [] : app(self::class)->all();
        $roles = array_values(array_filter(
            $person->roles,
            static fn (string $role): bool => ! in_array($power?->value, $limits[$role] ?? [], true),
        ));

        return count($roles) === count($person->roles) ? $person : $person->inRoles($roles);
    }

    /** @return list<Power> what a role still does */
    public static function of(Role $role): array
    {
        $withheld = app(self::class)->all()[$role->value] ?? [];

        return array_values(array_filter($role->powers(), static fn (Power $p): bool => ! in_array($p->value, $withheld, true)));
    }
}
