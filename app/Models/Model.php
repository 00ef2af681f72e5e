<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Database\Eloquent\Model as Eloquent;
use Illuminate\Support\Str;

/**
 * A row of the truth: a ULID minted by whoever makes it, a version raised by every change, written only inside an Action.
 *
 * @property string $id
 * @property int $version
 */
abstract class Model extends Eloquent
{
    public $timestamps = false;

    public $incrementing = false;

    protected $keyType = 'string';

    protected $guarded = [];

    protected static function booted(): void
    {
        static::creating(function (self $model): void {
            $model->id ??= (string) Str::ulid();
            WriteGate::ledger();
        });
        static::updating(function (self $model): void {
            WriteGate::ledger();
            if ($model->versioned() && ! $model->isDirty('version')) {
                $model->version = (int) $model->getOriginal('version') + 1;
            }
        });
        static::deleting(fn () => WriteGate::ledger());
        static::created(fn (self $model) => WriteGate::ledger()->wrote($model, null));
        static::updated(fn (self $model) => WriteGate::ledger()->wrote($model, array_intersect_key($model->getRawOriginal(), $model->getChanges())));
        static::deleted(fn (self $model) => WriteGate::ledger()->wrote($model, $model->getAttributes(), removed: true));
    }

    /** The word by which people and history know this kind of object. */
    abstract public static function noun(): string;

    /** One line that names this object among others. */
    abstract public function line(): string;

    /** Columns that no person wants to see in a history: counters and locks. */
    public static function quiet(): array
    {
        return ['version', 'structure', 'children', 'carved', 'used', 'parent_id', 'owner_key', 'data_hash', 'effective_tenant_id', 'target'];
    }

    public function versioned(): bool
    {
        return true;
    }

    /**
     * Attributes as text that may stand in JSON: bytes as addresses.
     *
     * @param  array<string, mixed>  $raw
     * @return array<string, mixed>
     */
    public function readable(array $raw): array
    {
        $casts = $this->getCasts();
        $out = [];
        foreach ($raw as $key => $value) {
            $out[$key] = match (true) {
                $value === null => null,
                ! is_string($value) => $value,
                ($casts[$key] ?? '') === \App\Casts\AddressBytes::class => (string) Address::fromBytes($value),
                ($casts[$key] ?? '') === \App\Casts\MacBytes::class => (string) MacAddress::fromBytes($value),
                preg_match('/[^\x20-\x7e\x80-\xff\t\r\n]/', $value) === 1 => bin2hex($value),
                default => $value,
            };
        }

        return array_diff_key($out, array_flip([...static::secret(), ...static::quiet()]));
    }

    /** @return list<string> columns that never leave the row */
    public static function secret(): array
    {
        return [];
    }

    public function newEloquentBuilder($query): GuardedBuilder
    {
        return new GuardedBuilder($query);
    }
}
