<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dhcp\Option\OptionTable;

/**
 * @property string $layer
 * @property string $layer_id
 * @property int $code
 * @property list<string> $values
 */
final class OptionValue extends Model
{
    protected $table = 'option_values';

    protected $casts = ['values' => 'array'];

    public static function noun(): string
    {
        return 'option';
    }

    public function line(): string
    {
        return "$this->code ".OptionTable::definition($this->code)->name.': '.implode(', ', $this->values);
    }
}
