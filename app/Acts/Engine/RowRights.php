<?php

declare(strict_types=1);

namespace App\Acts\Engine;

use App\Models\Ability;
use App\Models\ApprovalRule;
use App\Models\Draft;
use App\Models\DraftDecision;
use App\Models\DraftEdit;
use App\Models\DraftHand;
use App\Models\DraftRemark;
use App\Models\Grant;
use App\Models\HeldRun;
use App\Models\Hook;
use App\Models\Host;
use App\Models\Model;
use App\Models\NameGrant;
use App\Models\OptionValue;
use App\Models\Person;
use App\Models\Power;
use App\Models\Prefix;
use App\Models\Record;
use App\Models\Report;
use App\Models\Reservation;
use App\Models\RightTest;
use App\Models\Role;
use App\Models\RoleLimit;
use App\Models\Scope;
use App\Models\Team;
use App\Models\TeamMember;
use App\Models\Token;
use App\Models\Zone;
use App\Queries\Granted;
use App\Queries\NameRights;
use App\Queries\RoleLimits;
use HarborPost\Core\Dhcp\Option\OptionLayer;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\RecordType;

/**
 * May this person write this row, as it was and as it will be? Asked for every row, whichever act or shared noun writes it, so that no act
 * carries a right across to an object that the right does not cover.
 */
final class RowRights
{
    /** @param  array<string, mixed>|null  $before  raw columns as they were read; null for a new row */
    public static function allow(Person $person, Model $row, ?array $before, bool $removed): bool
    {
        return match (true) {
            $row instanceof Record => self::record($person, $row, $before, $removed),
            $row instanceof Draft => $row->person_id === $person->id,
            $row instanceof DraftEdit => DraftHand::query()->where('draft_id', $row->draft_id)->where('person_id', $person->id)->exists(),
            // One's own place on a draft is left or made the current one; who works on it is its author's to say.
            $row instanceof DraftHand => $before !== null && $row->person_id === $person->id
                || self::ownDraft($person, $row->draft_id),
            $row instanceof DraftDecision => $row->person_id === $person->id && ! $person->isBound() || self::ownDraft(
                $person,
                $row->draft_id,
            ),
            $row instanceof Token => ! $removed && ($row->person_id === $person->id || self::ofProgram($person, $row->person_id)
                || self::isEnded($row) && $person->does(Role::Steward) && ! $person->isBound()),
            $row instanceof DraftRemark => $row->person_id === $person->id,
            $row instanceof Report => $row->author_id === $person->id && ($before === null || $before['author_id'] === $person->id)
                || $person->does(Role::Steward) && ! $person->isBound(),
            $row instanceof RightTest,
            $row instanceof Hook,
            $row instanceof Team,
            $row instanceof TeamMember,
            $row instanceof Grant,
            $row instanceof RoleLimit,
            $row instanceof ApprovalRule => ! $person->isBound() && $person->does(Role::Steward),
            $row instanceof Host,
            $row instanceof HeldRun => self::prefixes($person, Ability::Hosts, [$row->prefix_id, $before['prefix_id'] ?? null]),
            $row instanceof Reservation => self::scopes(
                RoleLimits::narrow($person, Power::Leases),
                [$row->scope_id, $before['scope_id'] ?? null],
            ),
            $row instanceof OptionValue && $row->layer === OptionLayer::Reservation->value => self::scopes(
                $person,
                [Reservation::query()->whereKey($row->layer_id)->value('scope_id')],
            ),
            $row instanceof Prefix => self::allowMany($person) || self::prefix($person, $row, $before, $removed),
            // Everybody writes their own sign-in as far as acts let them; roles and names of people are a steward's.
            $row instanceof Person && $row->id === $person->id && array_diff(
                array_keys($row->getDirty()),
                ['password', 'epoch', 'must_change', 'code_secret', 'code_counter', 'paper_codes', 'theme', 'version', 'remember_token',
                    'mail', 'mail_when', 'mail_zone', 'mail_hour', 'quiet_from', 'quiet_to'],
            ) === [] && ! $removed => true,
            $row instanceof NameGrant,
            $row instanceof Person => ! $person->isBound()
                && ($person->does(Role::Steward) || $row instanceof NameGrant && $person->does(Role::Planner)),
            default => self::allowMany($person),
        };
    }

    /** Of somebody who leaves a steward ends tokens, and changes nothing else of them. */
    private static function isEnded(Token $token): bool
    {
        return $token->revoked_at !== null && array_diff(array_keys($token->getDirty()), ['revoked_at', 'version']) === [];
    }

    /** What acts for nobody is a steward's. */
    private static function ofProgram(Person $person, string $id): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound() && Person::query()->whereKey($id)->where('program', true)->exists();
    }

    /** The author voids what others said of the draft when it is taken back. */
    private static function ownDraft(Person $person, string $draft): bool
    {
        return Draft::query()->whereKey($draft)->where('person_id', $person->id)->exists();
    }

    /** What belongs to no tenant alone, and statements that write many rows unread: only for people who are bound to none. */
    public static function allowMany(Person $person): bool
    {
        return ! $person->isBound() && ($person->operates() || $person->does(Role::Steward));
    }

    /**
     * A record that belongs to a host follows its host, as long as its name stays; a name of its own needs a right on that name, in that
     * zone and view, both where it was and where it will be.
     *
     * @param  array<string, mixed>|null  $before
     */
    private static function record(Person $person, Record $row, ?array $before, bool $removed): bool
    {
        if ($person->operatesAll()) {
            return true;
        }
        if (
            $row->address_id !== null
                && self::follows($row, $before, $removed)
                && self::prefixes($person, Ability::Hosts, [Host::query()->whereKey($row->address_id)->value('prefix_id')])
        ) {
            return true;
        }

        return self::name($person, $row->zone_id, $row->owner, $row->type)
            && ($before === null || self::name($person, (string) $before['zone_id'], (string) $before['owner'], (int) $before['type']));
    }

    /** @param  array<string, mixed>|null  $before */
    private static function follows(Record $row, ?array $before, bool $removed): bool
    {
        $stays = $before !== null
            && $before['owner'] === $row->owner
            && $before['zone_id'] === $row->zone_id
            && $before['address_id'] === $row->address_id;

        return $removed || $row->type === RecordType::PTR || $stays;
    }

    private static function name(Person $person, string $zone, string $owner, int $type): bool
    {
        $zone = Zone::query()->find($zone);

        return $zone !== null && NameRights::may($person, $zone, Name::parse($owner), $type);
    }

    /**
     * A prefix of somebody's grant: within it as it was and as it will be.
     *
     * @param  array<string, mixed>|null  $before
     */
    private static function prefix(Person $person, Prefix $row, ?array $before, bool $removed): bool
    {
        return ($before === null || Granted::plansRow($person, $before))
            && ($removed || Granted::plansRow($person, Granted::values($row)));
    }

    /**
     * Hosts and reservations: by role in what belongs to one's tenant, or wherever a grant says so. To see a place is not enough.
     *
     * @param  list<mixed>  $ids
     */
    private static function prefixes(Person $person, Ability $ability, array $ids): bool
    {
        $ids = array_values(array_unique(array_filter($ids, is_string(...))));
        if ($person->operates()) {
            if (! $person->isBound()) {
                return true;
            }
            $own = Prefix::query()->whereKey($ids)->where('effective_tenant_id', $person->tenant_id ?? '')->pluck('id')->all();
            $ids = array_values(array_diff($ids, $own));
        } elseif ($ids === []) {
            return false;
        }

        return Granted::coversAll($person, $ability, $ids);
    }

    /** @param  list<mixed>  $ids */
    private static function scopes(Person $person, array $ids): bool
    {
        // Whoever works on everything is not asked for each of thousands of rows.
        if ($person->operates() && ! $person->isBound()) {
            return true;
        }
        $ids = array_values(array_unique(array_filter($ids, is_string(...))));
        $prefixes = Scope::query()->whereKey($ids)->pluck('prefix_id');

        return $prefixes->count() === count($ids)
            && self::prefixes($person, Ability::Leases, array_values($prefixes->all()));
    }
}
