<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use Carbon\CarbonImmutable;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Prefix as Net;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $space_id
 * @property int $family
 * @property Address $first
 * @property int $length
 * @property bool $groups
 * @property ?string $parent_id
 * @property PrefixKind $kind
 * @property Stage $stage
 * @property string $name
 * @property string $role
 * @property string $description
 * @property ?string $site_id
 * @property ?string $tenant_id
 * @property ?string $effective_tenant_id
 * @property ?string $vlan_id
 * @property ?Address $gateway
 * @property string $origin
 * @property string $origin_handle
 * @property ?CarbonImmutable $origin_on
 * @property ?list<string> $tags
 * @property ?array<string, string> $own
 * @property int $children
 * @property float $carved
 * @property int $used
 * @property int $structure
 * @property-read Space $space
 * @property-read ?Prefix $parent
 * @property-read ?Site $site
 * @property-read ?Tenant $tenant
 * @property-read ?Vlan $vlan
 */
final class Prefix extends Model
{
    protected $table = 'prefixes';

    protected $casts = [
        'kind' => PrefixKind::class, 'stage' => Stage::class, 'first' => AddressBytes::class, 'gateway' => AddressBytes::class,
        'groups' => 'boolean', 'carved' => 'float', 'origin_on' => 'immutable_date', 'tags' => 'array', 'own' => 'array',
    ];

    /** The value of the two columns, kept with the bytes it was made of: lists ask for it many times a row. */
    private ?Net $net = null;

    private string $netOf = '';

    public function prefix(): Net
    {
        $first = $this->attributes['first'] ?? null;
        $of = (is_string($first) ? $first : '').'/'.(int) ($this->attributes['length'] ?? 0);
        if ($this->net === null || $this->netOf !== $of) {
            $this->net = Net::of($this->first, $this->length);
            $this->netOf = $of;
        }

        return $this->net;
    }

    public function isSubnet(): bool
    {
        return $this->kind === PrefixKind::Subnet;
    }

    /** @return BelongsTo<Space, $this> */
    public function space(): BelongsTo
    {
        return $this->belongsTo(Space::class);
    }

    /** @return BelongsTo<Prefix, $this> */
    public function parent(): BelongsTo
    {
        return $this->belongsTo(self::class, 'parent_id');
    }

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    /** @return BelongsTo<Tenant, $this> */
    public function tenant(): BelongsTo
    {
        return $this->belongsTo(Tenant::class, 'effective_tenant_id');
    }

    /** @return BelongsTo<Vlan, $this> */
    public function vlan(): BelongsTo
    {
        return $this->belongsTo(Vlan::class);
    }

    public static function noun(): string
    {
        return 'prefix';
    }

    public function line(): string
    {
        return trim("{$this->prefix()} $this->name");
    }
}
