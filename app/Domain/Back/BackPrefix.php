<?php

declare(strict_types=1);

namespace App\Domain\Back;

use App\Acts\Engine\Ledger;
use App\Database\Guard;
use App\Domain\Plan\Labels;
use App\Domain\Plan\Tree;
use App\Models\HeldRun;
use App\Models\Host;
use App\Models\Prefix;
use App\Models\PrefixKind;
use App\Models\Scope;
use App\Models\Space;
use Illuminate\Support\Facades\DB;

/** Prefixes go back through the tree: what is inside moves, open space and tenants follow. */
final class BackPrefix
{
    /** What a prefix is: changed by acts of their own, which know what is inside. */
    private const FORM = ['space_id', 'family', 'first', 'length', 'groups', 'kind'];

    public static function take(Ledger $ledger, PastRow $row): void
    {
        $prefix = Prefix::query()->with(['space', 'parent'])->find($row->id);
        if ($row->after === null) {
            $prefix === null ?: WayBack::refuseChanged($ledger, $row, 'It is there again.');
            self::carveAgain($ledger, $row);

            return;
        }
        $prefix ?? WayBack::refuseChanged($ledger, $row, 'It is gone.');
        $changed = WayBack::same($row, $prefix->readable($prefix->getAttributes()));
        if ($changed !== null) {
            WayBack::refuseChanged($ledger, $row, 'Its '.str_replace('_', ' ', $changed).' is another now; undo the later change first.');
        }
        $row->before === null ? self::giveBack($ledger, $row, $prefix) : self::changeBack($ledger, $row, $prefix);
    }

    private static function carveAgain(Ledger $ledger, PastRow $row): void
    {
        $space = Space::query()->find($row->was('space_id') ?? '') ?? WayBack::refuseChanged($ledger, $row, 'Its space is gone.');
        $prefix = new Prefix;
        $prefix->setRawAttributes(Raw::of($prefix, $row->before ?? []) + ['id' => $row->id, 'version' => $row->nextVersion()]);
        $parent = Tree::lockParent($space, $prefix->prefix(), $prefix->groups);
        Tree::check($ledger, $space, $prefix->prefix(), $prefix->groups, pool: $prefix->kind === PrefixKind::Pool);
        // What was counted in its earlier life and not folded yet is over with it.
        DB::table('use_deltas')->where('prefix_id', $row->id)->delete();
        $prefix->parent_id = $parent?->id;
        Tree::insert($prefix, $parent);
        Labels::index($prefix);
    }

    private static function giveBack(Ledger $ledger, PastRow $row, Prefix $prefix): void
    {
        Tree::lock($prefix->space, $prefix->parent);
        Tree::lock($prefix->space, $prefix);
        Guard::alone("subnet:$prefix->id");
        $held = Host::query()->where('prefix_id', $prefix->id)->exists()
            || Scope::query()->where('prefix_id', $prefix->id)->exists()
            || HeldRun::query()->where('prefix_id', $prefix->id)->exists();
        if ($held) {
            WayBack::refuseChanged($ledger, $row, 'Something stands in it now.');
        }
        $prefix->refresh();
        Tree::remove($prefix, $prefix->parent);
    }

    private static function changeBack(Ledger $ledger, PastRow $row, Prefix $prefix): void
    {
        $before = $row->before ?? [];
        if (array_intersect_key($before, array_flip(self::FORM)) !== []) {
            $ledger->refuse(
                'no-way-back',
                ucfirst($row->called()).' is not taken back from here',
                'Its place, size or kind was changed: that is done on its page, where what is inside is looked at.',
                link: at('plan.prefix', $prefix->id),
            );
        }
        $prefix->setRawAttributes(Raw::of($prefix, $before) + $prefix->getAttributes());
        if (array_key_exists('tenant_id', $before)) {
            $prefix->effective_tenant_id = $prefix->tenant_id ?? $prefix->parent?->effective_tenant_id;
        }
        $prefix->save();
        if (array_key_exists('tenant_id', $before)) {
            Tree::inheritTenant($prefix);
        }
        if (array_key_exists('tags', $before)) {
            Labels::index($prefix);
        }
    }
}
