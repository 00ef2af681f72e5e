<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $server_id
 * @property ?string $person_id
 * @property string $state
 * @property list<array{what: string, id: string, state: string, message: string}> $steps
 * @property ?array{only?: list<string>, deep?: bool, removals?: bool, shown?: ?string} $orders
 * @property ?int $total
 * @property string $message
 * @property ?list<string> $behind  shipments that have to end well before this one
 * @property ?CarbonImmutable $ends_by  no step begins after that
 * @property CarbonImmutable $started_at
 * @property ?CarbonImmutable $finished_at
 * @property-read Server $server
 */
final class Shipment extends Model
{
    protected $table = 'shipments';

    protected $casts = [
        'steps' => 'array', 'orders' => 'array', 'behind' => 'array', 'ends_by' => 'immutable_datetime',
        'started_at' => 'immutable_datetime', 'finished_at' => 'immutable_datetime',
    ];

    public function runs(): bool
    {
        return $this->state === 'waiting' || $this->state === 'running';
    }

    /** @return BelongsTo<Server, $this> */
    public function server(): BelongsTo
    {
        return $this->belongsTo(Server::class);
    }

    public static function noun(): string
    {
        return 'shipment';
    }

    public function line(): string
    {
        return 'shipment';
    }
}
