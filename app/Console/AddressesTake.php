<?php

declare(strict_types=1);

namespace App\Console;

use App\Acts\Engine\Acts;
use App\Acts\Plan\PlaceSeveral;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Space;
use HarborPost\Core\Net\Prefix as Net;

/** Addresses for a script: the prefix by its name or as written, so many, and what they are. */
final class AddressesTake extends Computes
{
    protected $signature = 'addresses:take {prefix : a subnet, by prefix or by name} {--count=1} {--row : neighbours only} '
        .'{--name= : a name with {n} for the number} {--space= : where prefixes repeat} {--json}';

    protected $description = 'Takes free addresses of a subnet';

    public function handle(Acts $acts): int
    {
        $text = (string) $this->argument('prefix');
        $count = (string) $this->option('count');
        $net = Net::tryParse($text);
        $space = $this->option('space') === null ? null : Space::query()->where('name', $this->option('space'))->value('id');
        $found = Prefix::query()->where('kind', PrefixKind::Subnet)->when($space, fn ($q) => $q->where('space_id', $space))
            ->when(
                $net !== null,
                fn ($q) => $q->where('family', $net?->family()->value)->where('first', $net?->first->bytes)->where('length', $net?->length),
                fn ($q) => $q->where('name', $text),
            )
            ->limit(2)->get();
        if (! ctype_digit($count) || $this->option('space') !== null && $space === null) {
            return $this->unusable('--count is a number; --space is the name of a space');
        }
        if ($found->count() !== 1) {
            $this->err($found->isEmpty() ? "no subnet $text" : "several subnets are called $text; write the prefix, or say which --space");

            return $found->isEmpty() ? 1 : 2;
        }
        $subnet = $found->sole();
        $before = Host::query()->where('prefix_id', $subnet->id)->pluck('id')->flip();
        $outcome = $acts->commit(
            null,
            [
                PlaceSeveral::fromInput([
                    'prefix' => $subnet->id, 'count' => $count, 'row' => (bool) $this->option('row'),
                    'names' => (string) $this->option('name'),
                ]),
            ],
        );
        if ($outcome->blocked()) {
            $this->err($outcome->block()->message ?? (string) $outcome->trouble);

            return 1;
        }
        $taken = Host::query()->where('prefix_id', $subnet->id)
            ->whereIn('id', array_column($outcome->ledgers[0]->written, 'id'))->orderBy('address')->get()
            ->reject(fn (Host $h): bool => isset($before[$h->id]))->map(fn (Host $h): string => (string) $h->address)
            ->values()->all();
        $this->option('json')
            ? $this->json(['prefix' => (string) $subnet->prefix(), 'addresses' => $taken])
            : $this->say(implode("\n", $taken));

        return 0;
    }
}
