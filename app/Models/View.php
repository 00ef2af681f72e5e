<?php

declare(strict_types=1);

namespace App\Models;

/**
 * Which answers a client gets: the first view with a prefix that holds the client.
 *
 * @property string $name
 * @property list<string> $clients
 * @property int $position
 */
final class View extends Model
{
    protected $table = 'views';

    protected $casts = ['clients' => 'array'];

    public static function noun(): string
    {
        return 'view';
    }

    public function line(): string
    {
        return $this->name;
    }
}
