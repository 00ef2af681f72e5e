<?php

declare(strict_types=1);

namespace App\Models;

/** What acts need, in groups that an operator knows; roles come with some of them, and a steward may take some of those away. */
enum Power: string
{
    case Hosts = 'hosts';
    case Space = 'space';
    case Names = 'names';
    case NameService = 'name-service';
    case Keys = 'keys';
    case Leases = 'leases';
    case Ship = 'ship';
    case Files = 'files';
    case Places = 'places';
    case Watch = 'watch';
    case Approve = 'approve';
    case People = 'people';

    /** In a sentence: "may …". */
    public function words(): string
    {
        return match ($this) {
            self::Hosts => 'place hosts',
            self::Space => 'plan space',
            self::Names => 'edit names',
            self::NameService => 'run the name service',
            self::Keys => 'sign zones and keep keys',
            self::Leases => 'run leases',
            self::Ship => 'ship',
            self::Files => 'bring files in',
            self::Places => 'keep sites, VLANs, devices and servers',
            self::Watch => 'make reports, audits and notices',
            self::Approve => 'agree to drafts',
            self::People => 'manage people and rights',
        };
    }

    public function explained(): string
    {
        return match ($this) {
            self::Hosts => 'hosts, held runs, scans and what they found',
            self::Space => 'prefixes: carved, changed, moved, given back',
            self::Names => 'records of zones',
            self::NameService => 'zones, views, who serves and copies them, rights on names',
            self::Keys => 'policies of signing, keys of zones and of servers, anchors',
            self::Leases => 'scopes, options, classes, pairs, reservations',
            self::Ship => 'what servers are brought, when, and systems outside',
            self::Files => 'plans and zone files, taken over as a whole',
            self::Places => 'the directory, but for people and their rights',
            self::Watch => 'for everybody: rules, thresholds, what is kept, texts by template',
            self::Approve => 'drafts of others that rules want agreed to',
            self::People => 'sign-ins, teams, grants, rules of agreement, hooks, roles',
        };
    }
}
