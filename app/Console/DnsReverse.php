<?php

declare(strict_types=1);

namespace App\Console;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\ReverseName;
use HarborPost\Core\Net\Family;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

final class DnsReverse extends Computes
{
    protected $signature = 'dns:reverse {prefix} {--json}';

    protected $description = 'The reverse zones of a prefix; for IPv4 longer than /24 also what its parent zone needs (RFC 2317)';

    public function handle(): int
    {
        try {
            $prefix = Prefix::parse((string) $this->argument('prefix'));
        } catch (NotUnderstood $e) {
            return $this->unusable($e->getMessage()."\n".$e->pointer());
        }
        $zones = array_map(strval(...), ReverseName::zones($prefix));
        $parent = null;
        $aliases = [];
        if ($prefix->family() === Family::V4 && $prefix->length > 24) {
            $parent = (string) ReverseName::zones($prefix->first->in(24))[0];
            $child = ReverseName::classless($prefix);
            for ($n = 0; $n < 1 << (32 - $prefix->length); $n++) {
                $last = (string) (ord($prefix->first->bytes[3]) + $n);
                $aliases[] = sprintf('%s CNAME %s', Name::parse("$last.$parent"), $child->prepend($last));
            }
        }
        if ($this->option('json')) {
            $this->json(['prefix' => (string) $prefix, 'zones' => $zones, 'parent' => $parent, 'aliases' => $aliases]);

            return 0;
        }
        foreach ($zones as $zone) {
            $this->say($zone);
        }
        if ($parent !== null) {
            $this->say("; in $parent, beside an NS of {$zones[0]}");
        }
        foreach ($aliases as $alias) {
            $this->say($alias);
        }

        return 0;
    }
}
