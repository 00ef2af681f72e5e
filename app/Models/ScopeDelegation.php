<?php

declare(strict_types=1);

namespace App\Models;

use App\Casts\AddressBytes;
use HarborPost\Core\Exchange\V6\Delegation;
use HarborPost\Core\Net\Address;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A prefix from which a scope hands out parts to routers.
 *
 * @property string $scope_id
 * @property ?string $server_id
 * @property Address $first
 * @property int $pool_length
 * @property int $length
 * @property-read Scope $scope
 * @property-read ?Server $server
 */
final class ScopeDelegation extends Model
{
    protected $table = 'scope_delegations';

    protected $casts = ['first' => AddressBytes::class];

    public function delegation(): Delegation
    {
        return Delegation::of($this->first->in($this->pool_length), $this->length);
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

    /** @return BelongsTo<Server, $this> */
    public function server(): BelongsTo
    {
        return $this->belongsTo(Server::class);
    }

    public static function noun(): string
    {
        return 'delegation';
    }

    public static function withinColumn(): string
    {
        return 'scope_id';
    }

    public function line(): string
    {
        return (string) $this->delegation();
    }
}
