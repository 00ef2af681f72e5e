<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $scope_id
 * @property Address $first
 * @property Address $last
 * @property ?string $server_id
 * @property ?string $class_id
 * @property ?bool $class_only  true: kept for the class; false: closed to it
 * @property-read Scope $scope
 */
final class ScopeRange extends Model
{
    protected $table = 'scope_ranges';

    protected $casts = ['first' => AddressBytes::class, 'last' => AddressBytes::class, 'class_only' => 'boolean'];

    public function range(): AddressRange
    {
        return AddressRange::of($this->first, $this->last);
    }

    public function versioned(): bool
    {
        return false;
    }

    /** @return BelongsTo<Scope, $this> */
    public function scope(): BelongsTo
    {
        return $this->belongsTo(Scope::class);
    }

    public static function noun(): string
    {
        return 'range';
    }

    public static function withinColumn(): string
    {
        return 'scope_id';
    }

    public function line(): string
    {
        return (string) $this->range();
    }
}
