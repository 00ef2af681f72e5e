<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $domain_id
 * @property int $number
 * @property string $name
 * @property string $description
 * @property ?string $tenant_id  its owner; null: that of its site
 * @property-read Layer2Domain $domain
 */
final class Vlan extends Model
{
    protected $table = 'vlans';

    /** @return BelongsTo<Layer2Domain, $this> */
    public function domain(): BelongsTo
    {
        return $this->belongsTo(Layer2Domain::class, 'domain_id');
    }

    public static function noun(): string
    {
        return 'VLAN';
    }

    public function line(): string
    {
        return "$this->number $this->name";
    }
}
