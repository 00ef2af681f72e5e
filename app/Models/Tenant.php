<?php

declare(strict_types=1);

namespace App\Models;

/**
 * @property string $name
 */
final class Tenant extends Model
{
    protected $table = 'tenants';

    public static function noun(): string
    {
        return 'tenant';
    }

    public function line(): string
    {
        return $this->name;
    }
}
