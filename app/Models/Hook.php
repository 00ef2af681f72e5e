<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Where what happens is told to a system outside.
 *
 * @property string $name
 * @property string $address
 * @property string $secret
 * @property ?list<string> $kinds  words of the kinds of objects that it is told of; null: of all
 * @property ?string $site_id  it is told of this site and of all that stands in it; null: of all
 * @property-read ?Site $site
 * @property bool $inner  may lead into networks of one's own
 * @property bool $active
 */
final class Hook extends Model
{
    protected $table = 'hooks';

    /** @var array<string, string> */
    protected $casts = ['secret' => 'encrypted', 'kinds' => 'array', 'inner' => 'boolean', 'active' => 'boolean'];

    /** @var list<string> */
    protected $hidden = ['secret'];

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    public static function secret(): array
    {
        return ['secret'];
    }

    public static function noun(): string
    {
        return 'hook';
    }

    public function line(): string
    {
        return "$this->name, $this->address";
    }
}
