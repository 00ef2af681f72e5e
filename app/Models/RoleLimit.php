<?php

declare(strict_types=1);

namespace App\Models;

/**
 * What a steward took away from a role.
 *
 * @property Role $role
 * @property list<string> $withheld  powers that it comes with, and does not have here
 */
final class RoleLimit extends Model
{
    protected $table = 'role_limits';

    protected $casts = ['role' => Role::class, 'withheld' => 'array'];

    public static function noun(): string
    {
        return 'role';
    }

    public function line(): string
    {
        $words = array_map(static fn (string $p): string => Power::from($p)->words(), $this->withheld);

        return $this->role->words().($words === [] ? ', as it comes' : ', does not '.implode(', ', $words));
    }
}
