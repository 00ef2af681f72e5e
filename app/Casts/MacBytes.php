<?php

declare(strict_types=1);

namespace App\Casts;

use HarborPost\Core\Net\MacAddress;
use Illuminate\Contracts\Database\Eloquent\CastsAttributes;
use Illuminate\Contracts\Database\Eloquent\SerializesCastableAttributes;
use Illuminate\Database\Eloquent\Model;

/**
 * VARBINARY(6) ↔ {@see MacAddress}.
 *
 * @implements CastsAttributes<MacAddress, MacAddress>
 */
final class MacBytes implements CastsAttributes, SerializesCastableAttributes
{
    public function get(Model $model, string $key, mixed $value, array $attributes): ?MacAddress
    {
        return is_string($value) ? MacAddress::fromBytes($value) : null;
    }

    public function set(Model $model, string $key, mixed $value, array $attributes): ?string
    {
        // Anything else would be lost without a word.
        return match (true) {
            $value === null => null,
            $value instanceof MacAddress => $value->bytes,
            default => throw new \InvalidArgumentException("$key takes a MAC address, not ".get_debug_type($value)),
        };
    }

    public function serialize(Model $model, string $key, mixed $value, array $attributes): ?string
    {
        return $value instanceof MacAddress ? (string) $value : null;
    }
}
