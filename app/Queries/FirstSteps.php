<?php

declare(strict_types=1);

namespace App\Queries;

use Illuminate\Support\Facades\DB;

/** What an installation needs before people can work with it, in order, and what of it is there. */
final class FirstSteps
{
    /** @return list<array{done: int, title: string, why: string, link: string, must: bool}> done: how many there are */
    public static function all(): array
    {
        $count = static fn (string $table): int => DB::table($table)->count();
        $space = DB::table('spaces')->orderBy('name')->value('id');
        $plan = $space === null ? at('plan') : at('plan.space', $space);
        $backup = Health::checks()['backup'] ?? ['ok' => false];
        $steps = [
            ['spaces', 'Make a space', 'addresses that mean the same place: one is enough for most',
                at('directory.list', 'spaces')],
            ['prefixes', 'Carve its top prefixes',
                'what was given to you, and the private blocks you use; everything else is carved from them', $plan],
            ['sites', 'Write down the sites', 'where people and servers are: subnets, settings and rights go by them',
                at('directory.list', 'sites')],
            ['servers', 'Write down the servers', 'who answers names and who leases; each is tried by packets when it is shipped to',
                at('ship')],
            ['views', 'Make a view', 'who is told what: one for everybody inside is enough to begin with', at('name')],
            ['zones', 'Make the zones', 'or take them in from a server that has them', at('name')],
            ['scopes', 'Make the scopes', 'on many subnets at once, by a rule', at('lease.without')],
            ['imports', 'Bring what you have', 'a table of subnets or hosts, or zone files: everything is shown before it is written',
                at('import')],
        ];
        $all = [];
        foreach ($steps as [$table, $title, $why, $link]) {
            $all[] = ['done' => $count($table), 'title' => $title, 'why' => $why, 'link' => $link, 'must' => $table !== 'imports'];
        }
        $all[] = [
            'done' => max(0, $count('people') - 1), 'title' => 'Let the others in',
            'why' => 'each with what they may do; a steward does it',
            'link' => at('directory.list', 'people'), 'must' => true,
        ];
        $all[] = [
            'done' => $backup['ok'] ? 1 : 0, 'title' => 'Take a backup', 'why' => './hpost backup --make-key FILE, then ./hpost backup',
            'link' => '', 'must' => true,
        ];

        return $all;
    }
}
