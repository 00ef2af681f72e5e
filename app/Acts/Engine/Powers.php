<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Power;

/** Which power an act needs: by the room it stands in, and by name where a room has more than one. */
final class Powers
{
    private const ROOMS = [
        'Plan' => Power::Space, 'Name' => Power::NameService, 'Sign' => Power::Keys, 'Lease' => Power::Leases, 'Ship' => Power::Ship,
        'Scan' => Power::Hosts, 'Imports' => Power::Files, 'Texts' => Power::Watch, 'Watch' => Power::Watch,
        'Directory' => Power::Places, 'Drafts' => null,
    ];

    private const NAMED = [
        // Of oneself, or of what it is about, which is asked for each part of it.
        'MarkFavourite' => null, 'TakeBack' => null, 'EnterFromOutside' => null, 'EndSessions' => null,
        'NoteAccess' => null,
        'PlaceHost' => Power::Hosts, 'ChangeHost' => Power::Hosts, 'ReleaseHosts' => Power::Hosts, 'PlaceSeveral' => Power::Hosts,
        'PlaceMany' => Power::Hosts,
        'ChangeHosts' => Power::Hosts, 'TakeLeases' => Power::Hosts, 'HoldRun' => Power::Hosts, 'LetRunGo' => Power::Hosts,
        'AddRecord' => Power::Names, 'ChangeRecord' => Power::Names, 'RemoveRecords' => Power::Names, 'ChangeRecords' => Power::Names,
        'PasteRecords' => Power::Names, 'UndoRecords' => Power::Names, 'MendNames' => Power::Names, 'ShareRecords' => Power::Names,
        'MakeKey' => Power::Keys, 'RemoveKey' => Power::Keys, 'DecideDraft' => Power::Approve,
        'MakePerson' => Power::People, 'ChangePerson' => Power::People, 'RemovePerson' => Power::People, 'ResetPassword' => Power::People,
        'MakeProgramToken' => Power::People, 'RevokeProgramToken' => Power::People, 'KeepRightTest' => Power::People,
        'RemoveRightTest' => Power::People, 'MakeRule' => Power::People, 'RemoveRule' => Power::People, 'KeepTeam' => Power::People,
        'RemoveTeam' => Power::People, 'KeepGrant' => Power::People, 'RemoveGrant' => Power::People, 'CopyGrants' => Power::People,
        'MakeHook' => Power::People, 'RemoveHook' => Power::People, 'KeepRole' => Power::People, 'DropSecondFactor' => Power::People,
    ];

    /** @param  class-string<Act>  $act */
    public static function of(string $act): ?Power
    {
        $name = class_basename($act);

        return match (true) {
            in_array(OfOneself::class, class_uses($act) ?: [], true) => null,
            array_key_exists($name, self::NAMED) => self::NAMED[$name],
            default => self::ROOMS[explode('\\', $act)[2] ?? ''] ?? null,
        };
    }
}
