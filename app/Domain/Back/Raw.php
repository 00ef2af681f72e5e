<?php

declare(strict_types=1);

namespace App\Domain\Back;

use App\Casts\AddressBytes;
use App\Casts\MacBytes;
use App\Models\Model;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;

/** Values as history tells them, as the database keeps them. */
final class Raw
{
    /** Columns of bytes that have no form of their own: history tells them in hexadecimal where they are not plain text. */
    private const BYTES = ['client_id'];

    /**
     * @param  array<string, mixed>  $told
     * @return array<string, mixed>
     */
    public static function of(Model $model, array $told): array
    {
        $casts = $model->getCasts();
        $raw = [];
        foreach ($told as $column => $value) {
            $cast = $casts[$column] ?? '';
            $raw[$column] = match (true) {
                ! is_string($value) => is_array($value) ? json_encode($value, JSON_THROW_ON_ERROR) : $value,
                $cast === AddressBytes::class => Address::parse($value)->bytes,
                $cast === MacBytes::class => MacAddress::parse($value)->bytes,
                in_array($column, self::BYTES, true) && strlen($value) % 2 === 0 && ctype_xdigit($value) => hex2bin($value),
                default => $value,
            };
        }

        return $raw;
    }
}
