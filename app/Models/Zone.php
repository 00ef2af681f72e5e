<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Serial;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * @property string $view_id
 * @property string $name
 * @property string $primary_server
 * @property string $mailbox
 * @property int $serial
 * @property int $refresh
 * @property int $retry
 * @property int $expire
 * @property int $negative_ttl
 * @property int $default_ttl
 * @property bool $silenced
 * @property ?string $tenant_id
 * @property string $description
 * @property-read View $view
 * @property-read Collection<int, ZoneServer> $placements
 */
final class Zone extends Model
{
    protected $table = 'zones';

    protected $casts = ['silenced' => 'boolean'];

    public function title(): string
    {
        return rtrim($this->name, '.') ?: '.';
    }

    public function origin(): Name
    {
        return Name::parse($this->name);
    }

    public function isReverse(): bool
    {
        return str_ends_with($this->name, '.arpa.');
    }

    public function soa(?Serial $serial = null): Soa
    {
        return new Soa(Name::parse($this->primary_server), Name::parse($this->mailbox), $serial ?? Serial::of($this->serial), $this->refresh, $this->retry, $this->expire, $this->negative_ttl);
    }

    /** @return BelongsTo<View, $this> */
    public function view(): BelongsTo
    {
        return $this->belongsTo(View::class);
    }

    /** @return HasMany<ZoneServer, $this> */
    public function placements(): HasMany
    {
        return $this->hasMany(ZoneServer::class);
    }

    public static function noun(): string
    {
        return 'zone';
    }

    public function line(): string
    {
        return "{$this->title()}, {$this->view->name}";
    }
}
