<?php

declare(strict_types=1);

namespace App\View;

use App\Acts\Registry;
use App\Models\Person;

/** What the lists of the directory are called, and which act changes a row of each. */
final class DirectoryLists
{
    /** List → its title, one of its rows, and the acts that make and change one. */
    private const LISTS = [
        'sites' => ['Sites', 'site', 'make-site', 'change-site'],
        'tenants' => ['Tenants', 'tenant', 'make-tenant', 'change-tenant'],
        'spaces' => ['Spaces', 'space', 'make-space', 'change-space'],
        'vlans' => ['VLANs', 'VLAN', 'make-vlan', 'change-vlan'],
        'domains' => ['Layer-2 domains', 'layer-2 domain', 'make-domain', 'change-domain'],
        'devices' => ['Devices', 'device', 'make-device', 'change-device'],
        'people' => ['People', 'person', 'make-person', 'change-person'],
    ];

    public static function title(string $list): string
    {
        return self::LISTS[$list][0];
    }

    public static function one(string $list): string
    {
        return self::LISTS[$list][1];
    }

    /** The act that makes a row. */
    public static function maker(string $list): string
    {
        return self::LISTS[$list][2];
    }

    /** The act that changes a row. */
    public static function act(string $list): string
    {
        return self::LISTS[$list][3];
    }

    /** The input of that act which names the row. */
    public static function input(string $list): string
    {
        return substr(self::act($list), strlen('change-'));
    }

    public static function mayMake(string $list, Person $person): bool
    {
        $act = Registry::find(self::LISTS[$list][2]);

        return $act !== null && $act::permits($person);
    }
}
