<?php

declare(strict_types=1);

namespace App\Models;

/**
 * @property string $layer
 * @property string $layer_id
 * @property string $key
 * @property list<string> $value
 */
final class Setting extends Model
{
    protected $table = 'settings';

    protected $casts = ['value' => 'array'];

    public static function noun(): string
    {
        return 'setting';
    }

    public function line(): string
    {
        return "$this->key: ".(implode(', ', $this->value) ?: 'none');
    }
}
