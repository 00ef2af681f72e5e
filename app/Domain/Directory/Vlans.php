<?php

declare(strict_types=1);

namespace App\Domain\Directory;

use App\Acts\Engine\Ledger;
use App\Models\Layer2Domain;
use App\Models\Vlan;

/** A VLAN is written, by whichever act: once in its layer-2 domain, with a number that there is. */
final class Vlans
{
    public static function make(Ledger $ledger, string $domain, int $number, string $name, string $id, string $description = ''): Vlan
    {
        self::check($ledger, $domain, $number, $name);
        $vlan = new Vlan([
            'id' => $id, 'domain_id' => $domain, 'number' => $number, 'name' => trim($name), 'description' => $description,
        ]);
        $vlan->save();

        return $vlan;
    }

    /** The rules of a VLAN wherever it is written: made, changed or moved. */
    public static function check(Ledger $ledger, string $domain, int $number, string $name, ?string $except = null): void
    {
        if ($number < 1 || $number > 4094) {
            $ledger->refuse('bad-number', 'A VLAN number is 1 to 4094', standard: 'IEEE 802.1Q', field: 'number');
        }
        $in = Layer2Domain::query()->find($domain) ?? $ledger->refuse('no-domain', 'Choose a layer-2 domain', field: 'domain');
        $twin = Vlan::query()->where('domain_id', $in->id)->where('number', $number)
            ->when($except, fn ($q) => $q->whereKeyNot($except))->first();
        if ($twin !== null) {
            $ledger->refuse(
                'vlan-twice',
                "VLAN {$twin->line()} is already in $in->name",
                'A number is used once in a layer-2 domain.',
                null,
                'number',
                at('directory.vlan', $twin->id),
            );
        }
        if (trim($name) === '') {
            $ledger->refuse('no-name', 'Write the name as it is on the switch', field: 'name');
        }
    }
}
