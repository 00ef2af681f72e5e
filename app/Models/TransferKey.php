<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Wire\TsigAlgorithm;
use HarborPost\Core\Dns\Wire\TsigKey;

/**
 * A shared secret by which servers and clients of a zone know each other (RFC 8945).
 *
 * @property string $name  lower case, with the final dot
 * @property string $secret  in base 64
 * @property TsigAlgorithm $algorithm
 * @property string $description
 */
final class TransferKey extends Model
{
    protected $table = 'transfer_keys';

    /** @var array<string, string> */
    protected $attributes = ['algorithm' => 'hmac-sha256'];

    protected $casts = ['secret' => 'encrypted', 'algorithm' => TsigAlgorithm::class];

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
        return TsigKey::of(Name::parse($this->name), $this->secret, $this->algorithm);
    }

    /** @return array{name: string, secret: string, algorithm: string} as a server is told it */
    public function told(): array
    {
        return ['name' => $this->name, 'secret' => $this->secret, 'algorithm' => $this->algorithm->value];
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
