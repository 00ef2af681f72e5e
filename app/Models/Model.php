<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Database\Eloquent\Builder;
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
            if ($model->versioned()) {
                $model->version ??= 1;
            }
            WriteGate::books()->mayWrite($model, null);
        });
        static::updating(function (self $model): void {
            WriteGate::books()->mayWrite($model, $model->getRawOriginal());
            if ($model->versioned() && ! $model->isDirty('version')) {
                $model->version = (int) $model->getOriginal('version') + 1;
            }
        });
        static::deleting(fn (self $model) => WriteGate::books()->mayWrite($model, $model->getRawOriginal(), removed: true));
        static::created(fn (self $model) => WriteGate::books()->wrote($model, null));
        static::updated(
            fn (self $model) => WriteGate::books()->wrote($model, array_intersect_key($model->getRawOriginal(), $model->getChanges())),
        );
        // As it was kept: what somebody set on it before it went was never written.
        static::deleted(fn (self $model) => WriteGate::books()->wrote($model, $model->getRawOriginal(), removed: true));
    }

    /** The word by which people and history know this kind of object. */
    abstract public static function noun(): string;

    /** One line that names this object among others. */
    abstract public function line(): string;

    /** How a refusal calls it, to somebody who may not see it: the kind alone. */
    public function called(): string
    {
        return 'a '.static::noun();
    }

    /** The column that names the object to which this row belongs, so that the history of that object tells of it too. */
    public static function withinColumn(): ?string
    {
        return null;
    }

    /** @return list<string> columns that no person wants to see in a history: counters and locks */
    public static function quiet(): array
    {
        return [
            'version', 'structure', 'children', 'carved', 'used', 'parent_id', 'owner_key', 'data_hash', 'effective_tenant_id',
            'target',
        ];
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

    protected function performInsert(Builder $query)
    {
        if ($this->fireModelEvent('creating') === false) {
            return false;
        }
        $attributes = $this->getAttributesForInsert();
        if ($this->getIncrementing()) {
            $this->setAttribute($this->getKeyName(), $query->toBase()->insertGetId($attributes, $this->getKeyName()));
        } else {
            $query->toBase()->insert($attributes);
        }
        $this->exists = $this->wasRecentlyCreated = true;
        $this->fireModelEvent('created', false);

        return true;
    }

    /** Writes only the row that was read: another version by now, or none, is no row to write over. */
    protected function performUpdate(Builder $query)
    {
        if ($this->fireModelEvent('updating') === false) {
            return false;
        }
        $dirty = $this->getDirtyForUpdate();
        if ($dirty !== []) {
            if ($this->ofVersionRead($this->setKeysForSaveQuery($query))->toBase()->update($dirty) === 0 && $this->versioned()) {
                throw new ChangedMeanwhile($this);
            }
            $this->syncChanges();
            $this->fireModelEvent('updated', false);
        }

        return true;
    }

    protected function performDeleteOnModel()
    {
        if ($this->ofVersionRead($this->setKeysForSaveQuery($this->newModelQuery()))->toBase()->delete() === 0) {
            throw new ChangedMeanwhile($this);
        }
        $this->exists = false;
    }

    /**
     * @param  Builder<static>  $query
     * @return Builder<static>
     */
    private function ofVersionRead(Builder $query): Builder
    {
        $version = $this->versioned() ? $this->getOriginal('version') : null;

        return $version === null ? $query : $query->where('version', $version);
    }

    /** @return GuardedBuilder<self> */
    public function newEloquentBuilder($query): GuardedBuilder
    {
        return new GuardedBuilder($query);
    }
}
