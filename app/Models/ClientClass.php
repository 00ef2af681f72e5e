<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dhcp\Client\ClientClass as Rules;
use HarborPost\Core\Dhcp\Client\ClientField;
use HarborPost\Core\Dhcp\Client\Comparison;
use HarborPost\Core\Dhcp\Client\Condition;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * Clients that are served alike.
 *
 * @property string $name
 * @property int $position
 * @property bool $any
 * @property list<array{field: string, is: string, value: string}> $conditions
 * @property string $description
 * @property-read Collection<int, OptionValue> $optionValues
 */
final class ClientClass extends Model
{
    protected $table = 'client_classes';

    /** @var array<string, string> */
    protected $casts = ['conditions' => 'array', 'any' => 'boolean'];

    public function rules(): Rules
    {
        return Rules::of($this->id, $this->name, $this->any, $this->conditions);
    }

    /** @return HasMany<OptionValue, $this> */
    public function optionValues(): HasMany
    {
        $own = $this->hasMany(OptionValue::class, 'layer_id');
        $own->where('layer', 'class')->orderBy('code');

        return $own;
    }

    /** What its clients say in option 60, or the start of it; blank where the class does not ask for it. */
    public function vendorClass(): string
    {
        $said = array_filter(
            $this->rules()->conditions,
            static fn (Condition $c): bool => $c->field === ClientField::VendorClass
                && in_array($c->comparison, [Comparison::Is, Comparison::Starts], true),
        );
        // Where any row will do, a client may be in the class without saying it.
        $sure = $said !== [] && (! $this->any || count($said) === count($this->rules()->conditions) && count($said) === 1);

        return $sure ? array_values($said)[0]->value : '';
    }

    public static function noun(): string
    {
        return 'class';
    }

    public function line(): string
    {
        return "class $this->name";
    }
}
