<?php

declare(strict_types=1);

namespace App\Links;

use Illuminate\Support\Facades\DB;

/** To what a server was last brought and proved, of what has no placement of its own: VLANs on switches, how a server resolves. */
final class Brought
{
    /** @return array<string, string> object → digest of what was meant then */
    public static function to(string $server, string $kind): array
    {
        return DB::table('brought')->where('server_id', $server)->where('kind', $kind)->pluck('digest', 'object_id')->all();
    }
}
