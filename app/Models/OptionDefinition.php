<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dhcp\Option\OwnShape;
use HarborPost\Core\Net\Family;

/**
 * An option that the organisation defined for itself.
 *
 * @property Family $family
 * @property int $code
 * @property string $name
 * @property OwnShape $shape
 * @property string $description
 */
final class OptionDefinition extends Model
{
    protected $table = 'option_definitions';

    protected $casts = ['family' => Family::class, 'code' => 'integer', 'shape' => OwnShape::class];

    public static function noun(): string
    {
        return 'definition of an option';
    }

    public function line(): string
    {
        return ($this->family === Family::V4 ? '' : 'IPv6 ')."option $this->code, $this->name: {$this->shape->words()}";
    }
}
