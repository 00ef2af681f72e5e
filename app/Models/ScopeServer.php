<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $scope_id
 * @property string $server_id
 * @property int $delay_ms  how long the server holds its offers back
 * @property ?string $shipped_digest
 * @property ?CarbonImmutable $shipped_at
 * @property ?CarbonImmutable $verified_at
 * @property-read Scope $scope
 * @property-read Server $server
 */
final class ScopeServer extends Model
{
    protected $table = 'scope_servers';

    protected $casts = ['shipped_at' => 'immutable_datetime', 'verified_at' => 'immutable_datetime'];

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
        return 'scope on a server';
    }

    public static function withinColumn(): string
    {
        return 'scope_id';
    }

    public function line(): string
    {
        return "{$this->scope->name} on {$this->server->name}";
    }
}
