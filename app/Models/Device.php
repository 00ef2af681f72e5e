<?php

declare(strict_types=1);

namespace App\Models;

/**
 * @property string $name
 * @property string $kind
 * @property ?string $site_id
 * @property ?string $tenant_id  its owner; null: that of its site
 */
final class Device extends Model
{
    protected $table = 'devices';

    public static function noun(): string
    {
        return 'device';
    }

    public function line(): string
    {
        return $this->name;
    }
}
