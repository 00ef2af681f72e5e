<?php

declare(strict_types=1);

namespace App\Models;

/** The kinds of objects by the word that history and drafts use. */
final class Nouns
{
    /** @var list<class-string<Model>> */
    private const CLASSES = [
        Space::class, Site::class, Tenant::class, Device::class, Layer2Domain::class, Vlan::class,
        Prefix::class, Host::class, View::class, Zone::class, Record::class, Server::class,
        Scope::class, OptionValue::class, Reservation::class, Person::class,
        OwnField::class, HeldRun::class, Setting::class, ScanSchedule::class, TransferKey::class,
        NameGrant::class, ClientClass::class, OptionDefinition::class, VendorTemplate::class,
        Pair::class, ApprovalRule::class, Hook::class, SigningPolicy::class,
        ZoneKey::class, Report::class, Audit::class, NoticeRule::class, RightTest::class, ShipWindow::class, Freeze::class, Team::class,
        Grant::class, RoleLimit::class, VlanIntent::class, PortProfile::class, Threshold::class,
        Outside::class, Template::class, TemplateData::class, MadeText::class,
    ];

    /** @return list<string> every kind that rules may name */
    public static function words(): array
    {
        return array_map(static fn (string $class): string => $class::noun(), self::CLASSES);
    }

    /** @return class-string<Model>|null */
    public static function classOf(string $noun): ?string
    {
        foreach (self::CLASSES as $class) {
            if ($class::noun() === $noun) {
                return $class;
            }
        }

        return null;
    }

    /** @return \Illuminate\Database\Eloquent\Builder<Model>|null */
    public static function query(string $noun): ?\Illuminate\Database\Eloquent\Builder
    {
        $class = self::classOf($noun);

        return $class === null ? null : $class::query();
    }
}
