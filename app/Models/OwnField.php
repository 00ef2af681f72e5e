<?php

declare(strict_types=1);

namespace App\Models;

/**
 * @property string $name
 * @property string $kind
 * @property list<string> $choices
 */
final class OwnField extends Model
{
    protected $table = 'own_fields';

    protected $casts = ['choices' => 'array'];

    public static function noun(): string
    {
        return 'own field';
    }

    public function line(): string
    {
        return $this->name;
    }
}
