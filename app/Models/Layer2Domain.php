<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Where a VLAN number is unique.
 *
 * @property string $name
 * @property ?string $site_id
 * @property-read ?Site $site
 */
final class Layer2Domain extends Model
{
    protected $table = 'layer2_domains';

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    public static function noun(): string
    {
        return 'layer-2 domain';
    }

    public function line(): string
    {
        return $this->name;
    }
}
