<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Wire\TsigKey;

/**
 * A shared secret by which servers and clients of a zone know each other (RFC 8945).
 *
 * @property string $name  lower case, with the final dot
 * @property string $secret  in base 64
 * @property string $description
 */
final class TransferKey extends Model
{
    protected $table = 'transfer_keys';

    protected $casts = ['secret' => 'encrypted'];

    protected $hidden = ['secret'];

    public static function secret(): array
    {
        return ['secret'];
    }

    public function title(): string
    {
        return rtrim($this->name, '.');
    }

    public function tsig(): TsigKey
    {
        return TsigKey::of(Name::parse($this->name), $this->secret);
    }

    public static function noun(): string
    {
        return 'key';
    }

    public function line(): string
    {
        return $this->title();
    }
}
