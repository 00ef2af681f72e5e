<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\Option\SubDefinition;
use HarborPost\Core\Dhcp\Option\VendorTemplate as Template;
use HarborPost\Core\Net\Family;

/**
 * What one maker's devices read inside an encapsulated option.
 *
 * @property Family $family
 * @property string $name
 * @property string $vendor_class  what option 60 of its clients starts with; blank where the enterprise number tells
 * @property ?int $enterprise
 * @property string $subs  a line each: CODE NAME: HOLDS
 */
final class VendorTemplate extends Model
{
    protected $table = 'vendor_templates';

    protected $casts = ['family' => Family::class, 'enterprise' => 'integer'];

    public function template(): Template
    {
        return new Template(
            $this->name, $this->family, $this->vendor_class, $this->enterprise,
            SubDefinition::read($this->subs, OptionTable::most($this->family)),
        );
    }

    /** Whose devices read it. */
    public function whose(): string
    {
        return $this->enterprise === null ? "vendor class {$this->vendor_class}…" : "enterprise $this->enterprise";
    }

    public static function noun(): string
    {
        return 'template of sub-options';
    }

    public function line(): string
    {
        return "$this->name, option {$this->template()->code()} of {$this->whose()}";
    }
}
