<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * People who are asked or named together.
 *
 * @property string $name
 * @property string $description
 * @property string $outside_group  the group at the identity provider that decides who is in it; blank: it is decided here
 * @property-read Collection<int, TeamMember> $members
 */
final class Team extends Model
{
    protected $table = 'teams';

    /** @var array<string, string> */
    protected $attributes = ['description' => '', 'outside_group' => ''];

    /** @return HasMany<TeamMember, $this> */
    public function members(): HasMany
    {
        return $this->hasMany(TeamMember::class)->orderBy('id');
    }

    public static function noun(): string
    {
        return 'team';
    }

    public function line(): string
    {
        return $this->name;
    }
}
