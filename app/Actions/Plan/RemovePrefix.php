<?php

declare(strict_types=1);

namespace App\Actions\Plan;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Host;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Role;
use App\Models\Scope;

/** A prefix is given back. Refused while hosts or a scope stand in it; what a supernet holds moves up. */
final readonly class RemovePrefix extends Action
{
    public function __construct(public string $prefix)
    {
    }

    public function title(): string
    {
        return 'Give back '.(Prefix::query()->find($this->prefix)?->line() ?? 'a prefix');
    }

    public function may(Person $person): bool
    {
        return $person->does(Role::Planner) && ! $person->isBound();
    }

    public function landing(): string
    {
        return '/plan';
    }

    public function apply(Ledger $ledger): void
    {
        $row = Prefix::query()->find($this->prefix) ?? $ledger->refuse('gone', 'The prefix is not there any more');
        $parent = $row->parent;
        Tree::lock($row->space, $parent);
        Tree::lock($row->space, $row);
        $row->refresh();
        $hosts = Host::query()->where('prefix_id', $row->id)->count();
        if ($hosts > 0) {
            $ledger->refuse('has-hosts', "{$row->line()} has $hosts hosts", 'Release them first; the list is on its page.', link: "/plan/prefix/$row->id");
        }
        $scope = Scope::query()->where('prefix_id', $row->id)->first();
        if ($scope !== null) {
            $ledger->refuse('has-scope', "The scope $scope->name leases from it", 'Remove the scope first.', link: "/lease/scope/$scope->id");
        }
        if ($row->children > 0) {
            $ledger->warn('moves-up', "$row->children prefixes inside move up", $parent === null ? 'They become top prefixes of the space.' : "They move into {$parent->line()}.");
        }
        Tree::remove($row, $parent);
    }
}
