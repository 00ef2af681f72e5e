<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property ?string $parent_id
 * @property string $name
 * @property ?string $tenant_id  its owner; null: that of its site
 * @property-read ?Site $parent
 */
final class Site extends Model
{
    protected $table = 'sites';

    /** @return BelongsTo<Site, $this> */
    public function parent(): BelongsTo
    {
        return $this->belongsTo(self::class, 'parent_id');
    }

    public static function noun(): string
    {
        return 'site';
    }

    public function line(): string
    {
        return $this->name;
    }
}
