<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Fields;
use HarborPost\Core\Dns\Rdata\PointsAt;
use HarborPost\Core\Dns\Rdata\Rdata;
use HarborPost\Core\Dns\Rdata\RdataTypes;
use HarborPost\Core\Dns\Record as DnsRecord;
use HarborPost\Core\Dns\RecordType;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property string $zone_id
 * @property string $owner
 * @property string $owner_key
 * @property int $type
 * @property ?int $ttl
 * @property string $data
 * @property string $data_hash
 * @property ?string $target
 * @property ?string $address_id
 * @property ?CarbonImmutable $renewed_at  registered by a client; null: written by people, never lapses
 * @property ?string $share_id  the same record in several views
 * @property-read Zone $zone
 */
final class Record extends Model
{
    protected $table = 'records';

    protected $casts = ['renewed_at' => 'immutable_datetime'];

    public function typeName(): string
    {
        return (string) RecordType::of($this->type);
    }

    public function toRecord(int $defaultTtl): DnsRecord
    {
        return new DnsRecord(
            Name::parse($this->owner),
            $this->ttl ?? $defaultTtl,
            RdataTypes::fromText(RecordType::of($this->type), Fields::ofLine($this->data)),
        );
    }

    /**
     * The columns that follow from a record: order, identity, target.
     *
     * @return array{owner: string, owner_key: string, type: int, ttl: ?int, data: string, data_hash: string, target: ?string}
     */
    public static function columns(Name $owner, ?int $ttl, Rdata $data): array
    {
        return [
            'owner' => (string) $owner->lower(), 'owner_key' => $owner->sortKey(), 'type' => $data->type()->number, 'ttl' => $ttl,
            'data' => $data->text(), 'data_hash' => md5($data->canonical(), true),
            'target' => $data instanceof PointsAt ? (string) $data->target()->lower() : null,
        ];
    }

    /** @return BelongsTo<Zone, $this> */
    public function zone(): BelongsTo
    {
        return $this->belongsTo(Zone::class);
    }

    public static function noun(): string
    {
        return 'record';
    }

    public static function withinColumn(): string
    {
        return 'zone_id';
    }

    public function line(): string
    {
        return "{$this->typeName()} $this->owner → ".\Illuminate\Support\Str::limit($this->data, 120);
    }
}
