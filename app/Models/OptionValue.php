<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Bytes\Hex;
use HarborPost\Core\Dhcp\BadOption;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Net\Family;
use Illuminate\Support\Str;

/**
 * @property string $layer
 * @property string $layer_id
 * @property Family $family
 * @property int $code
 * @property list<string> $values
 */
final class OptionValue extends Model
{
    protected $table = 'option_values';

    protected $casts = ['values' => 'array', 'family' => Family::class];

    protected $attributes = ['family' => 4];

    /** The bytes that are sent; null for an option that is empty on purpose and has no empty form, so that none is sent. */
    public function payload(): ?string
    {
        try {
            return OptionTable::encode($this->code, $this->values, $this->family);
        } catch (BadOption) {
            return null;
        }
    }

    public function name(): string
    {
        $own = OptionTable::isRegistered($this->code, $this->family)
            ? null
            : OptionDefinition::query()->where('family', $this->family)->where('code', $this->code)->value('name');

        return is_string($own) ? $own : OptionTable::definition($this->code, $this->family)->name;
    }

    /** The bytes for people, cut where they are long. */
    public function spaced(): string
    {
        return Str::limit(Hex::spaced($this->payload() ?? ''), 60);
    }

    public static function noun(): string
    {
        return 'option';
    }

    public static function withinColumn(): string
    {
        return 'layer_id';
    }

    public function line(): string
    {
        return ($this->family === Family::V4 ? '' : 'IPv6 option ')."$this->code "
            .$this->name()
            .': '
            .($this->values === [] ? 'empty on purpose' : implode(', ', $this->values));
    }
}
