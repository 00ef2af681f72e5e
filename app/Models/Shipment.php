<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $server_id
 * @property ?string $person_id
 * @property ShipmentState $state
 * @property list<array{what: string, id: string, state: string, message: string, proved?: bool}> $steps
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
        'state' => ShipmentState::class, 'steps' => 'array', 'orders' => 'array', 'behind' => 'array', 'ends_by' => 'immutable_datetime',
        'started_at' => 'immutable_datetime', 'finished_at' => 'immutable_datetime',
    ];

    public function runs(): bool
    {
        return in_array($this->state, ShipmentState::RUNS, true);
    }

    /** @return BelongsTo<Server, $this> */
    public function server(): BelongsTo
    {
        return $this->belongsTo(Server::class);
    }

    /** How many steps are done. */
    public function done(): int
    {
        return count(array_filter($this->steps, static fn (array $s): bool => $s['state'] === StepState::Done->value));
    }

    /** What may be said of the steps that are done: proved is what packets showed, the rest is the server's own word. */
    public function proof(): string
    {
        $done = array_filter($this->steps, static fn (array $s): bool => $s['state'] === StepState::Done->value);
        $told = count(array_filter($done, static fn (array $s): bool => ($s['proved'] ?? true) === false));

        return match (true) {
            $told === 0 => 'shipped and proved',
            $told === count($done) => 'shipped and read back, not proved by packets',
            default => "shipped, $told of them read back and not proved by packets",
        };
    }

    public function outcome(): string
    {
        return $this->state === ShipmentState::Done ? $this->proof() : $this->state->value;
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
