<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\OptionDefinition;
use App\Models\VendorTemplate;
use HarborPost\Core\Dhcp\Option\OptionBook;

/** Registered options and those of one's own, read once for each object of this class. */
final class OwnOptions
{
    private ?OptionBook $book = null;

    public function book(): OptionBook
    {
        return $this->book ??= OptionBook::of(
            OptionDefinition::query()->orderBy('family')->orderBy('code')->get()->map(
                static fn (OptionDefinition $d): array => [$d->family, $d->code, $d->name, $d->shape],
            ),
            array_values(VendorTemplate::query()->orderBy('name')->get()->map(static fn (VendorTemplate $t) => $t->template())->all()),
        );
    }

    public static function now(): OptionBook
    {
        return app(self::class)->book();
    }
}
