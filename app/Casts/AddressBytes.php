<?php

declare(strict_types=1);

namespace App\Casts;

use HarborPost\Core\Net\Address;
use Illuminate\Contracts\Database\Eloquent\CastsAttributes;
use Illuminate\Contracts\Database\Eloquent\SerializesCastableAttributes;
use Illuminate\Database\Eloquent\Model;

/**
 * VARBINARY(16) ↔ {@see Address}; the bytes never reach JSON or a log.
 *
 * @implements CastsAttributes<Address, Address>
 */
final class AddressBytes implements CastsAttributes, SerializesCastableAttributes
{
    public function get(Model $model, string $key, mixed $value, array $attributes): ?Address
    {
        return is_string($value) ? Address::fromBytes($value) : null;
    }

    public function set(Model $model, string $key, mixed $value, array $attributes): ?string
    {
        // Anything else would be lost without a word.
        return match (true) {
            $value === null => null,
            $value instanceof Address => $value->bytes,
            default => throw new \InvalidArgumentException("$key takes an address, not ".get_debug_type($value)),
        };
    }

    public function serialize(Model $model, string $key, mixed $value, array $attributes): ?string
    {
        return $value instanceof Address ? (string) $value : null;
    }
}
