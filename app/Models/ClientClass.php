<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dhcp\Client\ClientClass as Rules;
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

    public static function noun(): string
    {
        return 'class';
    }

    public function line(): string
    {
        return "class $this->name";
    }
}
