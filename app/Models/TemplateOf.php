<?php

declare(strict_types=1);

namespace App\Models;

/** What a text is made of: one for each of these. */
enum TemplateOf: string
{
    case Site = 'site';
    case Vlan = 'vlan';
    case Prefix = 'prefix';
    case Scope = 'scope';
    case Zone = 'zone';
    case Device = 'device';

    /** @return class-string<Model> */
    public function model(): string
    {
        return match ($this) {
            self::Site => Site::class, self::Vlan => Vlan::class, self::Prefix => Prefix::class, self::Scope => Scope::class,
            self::Zone => Zone::class, self::Device => Device::class,
        };
    }

    /** @return array<string, string> */
    public static function choices(): array
    {
        return ['site' => 'a site', 'vlan' => 'a VLAN', 'prefix' => 'a prefix', 'scope' => 'a scope', 'zone' => 'a zone',
            'device' => 'a device'];
    }
}
