<?php

declare(strict_types=1);

namespace App\Links\Names;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Wire\TsigKey;

/** By which we ask what we hand out ourselves: known to who has the key of the application, and to nobody else. */
final class OwnKey
{
    public const NAME = 'harbor-post.';

    public static function tsig(): TsigKey
    {
        return TsigKey::of(Name::parse(self::NAME), base64_encode(hash_hmac('sha256', 'names', (string) config('app.key'), true)));
    }
}
