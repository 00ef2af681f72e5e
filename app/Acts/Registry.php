<?php

declare(strict_types=1);

namespace App\Acts;

use App\Acts\Engine\Act;

/** The acts that a form, a draft or a program may name. */
final class Registry
{
    /** @var list<class-string<Act>> */
    public const ACTS = [
        Directory\MakeSpace::class, Directory\MakeSite::class, Directory\MakeTenant::class, Directory\MakeDevice::class,
        Directory\MakeDomain::class,
        Directory\MakeVlan::class, Directory\MakeView::class, Directory\ChangeView::class, Directory\MakeServer::class,
        Directory\ChangeServer::class, Directory\ChangeResolving::class, Directory\MakePerson::class,
        Directory\ChangePerson::class, Directory\RemovePerson::class, Directory\SetTable::class, Directory\SetTheme::class,
        Directory\SetMail::class, Directory\ChangePassword::class,
        Directory\ResetPassword::class, Directory\MakeProgramToken::class, Directory\RevokeProgramToken::class,
        Directory\SetSecondFactor::class, Directory\DropSecondFactor::class, Directory\KeepRightTest::class,
        Directory\RemoveRightTest::class,
        Directory\EndSessions::class, Directory\SetSetting::class, Directory\MakeOwnField::class, Directory\ChangeVlan::class,
        Directory\MakeVlanSeries::class, Directory\MergeVlan::class, Directory\ImportVlans::class,
        Directory\MakeRule::class, Directory\RemoveRule::class, Directory\KeepTeam::class, Directory\RemoveTeam::class,
        Directory\KeepGrant::class, Directory\RemoveGrant::class, Directory\CopyGrants::class, Directory\KeepRole::class,
        Directory\ChangeSite::class, Directory\ChangeTenant::class, Directory\ChangeDevice::class, Directory\ChangeSpace::class,
        Directory\ChangeDomain::class, Directory\RemoveObject::class, Directory\KeepIntent::class, Directory\RemoveIntent::class,
        Directory\KeepProfile::class, Directory\GiveProfile::class,
        Directory\RemoveProfile::class,
        Directory\MakeToken::class, Directory\RevokeToken::class,
        Directory\SetPanels::class, Directory\MakeHook::class, Directory\RemoveHook::class, Scan\CancelScan::class,
        Scan\TakeSightings::class,
        Plan\CarvePrefix::class, Plan\ChangePrefix::class, Plan\RemovePrefix::class, Plan\PlaceHost::class, Plan\ChangeHost::class,
        Plan\ReleaseHosts::class, Plan\TakePlan::class, Plan\PlaceSeveral::class, Plan\ChangeHosts::class, Plan\TakeLeases::class,
        Plan\MarkFavourite::class, Plan\HoldRun::class, Plan\LetRunGo::class, Plan\SplitPrefix::class, Plan\MergePrefix::class,
        Plan\ResizePrefix::class, Plan\MoveSubnet::class,
        Name\MakeZone::class, Name\MakeReverseZones::class, Name\ChangeZone::class, Name\RemoveZone::class, Name\AddRecord::class,
        Name\ChangeRecord::class, Name\RemoveRecords::class, Name\ChangeRecords::class, Name\PasteRecords::class,
        Name\UndoRecords::class, Name\GrantName::class, Name\RevokeName::class, Name\MendNames::class, Name\ShareRecords::class,
        Name\MakeKey::class, Name\RemoveKey::class, Name\ServeZone::class, Name\AddSecondary::class, Name\ListSecondary::class,
        Name\RemoveSecondary::class,
        Sign\KeepPolicy::class, Sign\RemovePolicy::class, Sign\SignZone::class, Sign\UnsignZone::class, Sign\RollAlgorithm::class,
        Sign\RollKey::class,
        Sign\TellParent::class, Sign\HandAnchor::class, Watch\KeepReport::class, Watch\RemoveReport::class, Watch\KeepAudit::class,
        Texts\KeepTemplate::class, Texts\RemoveTemplate::class, Texts\KeepTemplateData::class, Texts\DropText::class,
        Watch\RemoveAudit::class, Watch\WaiveFinding::class, Watch\TakeNotices::class, Watch\KeepNoticeRule::class,
        Watch\TakeBack::class, Watch\KeepThreshold::class, Watch\RemoveThreshold::class, Watch\KeepRetention::class,
        Watch\MeasureServers::class,
        Lease\MakeScope::class, Lease\ChangeScope::class, Lease\RemoveScope::class, Lease\SetOption::class,
        Lease\AddReservation::class, Lease\ChangeReservation::class,
        Lease\RemoveReservations::class, Lease\ReserveLeases::class, Lease\MakeClass::class, Lease\ChangeClass::class,
        Lease\RemoveClass::class, Lease\KeepRange::class, Lease\SetShares::class, Lease\MakePair::class, Lease\ChangePair::class,
        Lease\RemovePair::class,
        Lease\PairScopes::class, Lease\MakeScopes::class, Lease\CopyScope::class, Lease\NameLeases::class,
        Lease\PasteReservations::class, Lease\SetProbing::class, Lease\DefineOption::class, Lease\RemoveOptionDefinition::class,
        Lease\KeepVendorTemplate::class, Lease\RemoveVendorTemplate::class, Lease\SetVendorOptions::class,
        Drafts\StartDraft::class, Drafts\TakeUpDraft::class, Drafts\NameDraft::class, Drafts\ShareDraft::class,
        Drafts\UnshareDraft::class, Drafts\DropDraft::class, Imports\TakeOver::class, Ship\KeepWindow::class, Ship\RemoveWindow::class,
        Ship\KeepFreeze::class,
        Ship\EndFreeze::class, Ship\SetShipping::class, Ship\KeepOutside::class, Ship\RemoveOutside::class, Ship\TurnOutside::class,
    ];

    /** Those that hold a secret, or concern only the person: never kept in a draft. */
    private const NOT_IN_DRAFT = [
        Ship\KeepOutside::class, Ship\RemoveOutside::class, Ship\TurnOutside::class,
        Name\MakeKey::class, Directory\MakePerson::class, Directory\ChangePerson::class, Directory\MakeServer::class,
        Directory\ChangeServer::class, Directory\SetTable::class, Directory\SetTheme::class,
        Directory\SetMail::class, Directory\ChangePassword::class,
        Directory\ResetPassword::class,
        Directory\SetSecondFactor::class, Directory\DropSecondFactor::class, Directory\KeepRightTest::class,
        Directory\RemoveRightTest::class,
        Directory\EndSessions::class, Scan\CancelScan::class, Plan\MarkFavourite::class, Drafts\StartDraft::class,
        Drafts\TakeUpDraft::class, Drafts\NameDraft::class, Drafts\ShareDraft::class, Drafts\UnshareDraft::class,
        Drafts\DropDraft::class, Directory\MakeRule::class, Directory\RemoveRule::class, Directory\KeepTeam::class,
        Directory\RemoveTeam::class, Directory\KeepGrant::class, Directory\RemoveGrant::class, Directory\CopyGrants::class,
        Directory\KeepRole::class,
        Directory\ChangeSite::class, Directory\ChangeTenant::class, Directory\ChangeDevice::class, Directory\ChangeSpace::class,
        Directory\ChangeDomain::class, Directory\RemoveObject::class, Directory\KeepIntent::class, Directory\RemoveIntent::class,
        Directory\KeepProfile::class, Directory\GiveProfile::class,
        Directory\RemoveProfile::class,
        Directory\MakeToken::class, Directory\RevokeToken::class, Directory\SetPanels::class,
        Directory\MakeHook::class, Directory\RemoveHook::class, Watch\KeepReport::class, Watch\RemoveReport::class,
        Texts\DropText::class,
        Watch\KeepAudit::class, Watch\RemoveAudit::class, Watch\WaiveFinding::class, Watch\TakeNotices::class,
        Watch\KeepNoticeRule::class, Ship\KeepWindow::class, Ship\RemoveWindow::class, Ship\KeepFreeze::class,
        Ship\EndFreeze::class, Ship\SetShipping::class,
    ];

    /** @var array<string, class-string<Act>>|null */
    private static ?array $byKey = null;

    /** @return class-string<Act>|null */
    public static function find(string $key): ?string
    {
        self::$byKey ??= array_combine(array_map(static fn (string $class): string => $class::key(), self::ACTS), self::ACTS);

        return self::$byKey[$key] ?? null;
    }

    /** @return list<string> keys of the acts that rules of agreement do not ask about */
    public static function ungoverned(): array
    {
        return array_values(
            array_map(
                static fn (string $class): string => $class::key(),
                array_filter(self::ACTS, static fn (string $class): bool => ! $class::governed()),
            ),
        );
    }

    /** @param  class-string<Act>  $class */
    public static function isDraftable(string $class): bool
    {
        return ! in_array($class, self::NOT_IN_DRAFT, true);
    }
}
