<?php

declare(strict_types=1);

namespace App\Domain\Back;

use App\Acts\Engine\Ledger;
use App\Domain\Lease\Scopes;
use App\Domain\Name\Records;
use App\Models\Model;
use App\Models\Nouns;
use App\Models\ProfilePort;
use App\Models\Scope;
use App\Models\ScopeDelegation;
use App\Models\ScopeExclusion;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\SigningPolicy;
use App\Models\TeamMember;
use App\Models\Zone;
use App\Models\ZoneServer;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;

/** Rows that hold nothing but themselves: removed again, made again as they were, or changed back. */
final class BackPlain
{
    /** Kinds that nobody names in a form. */
    private const PARTS = [
        'range' => ScopeRange::class, 'exclusion' => ScopeExclusion::class, 'delegation' => ScopeDelegation::class,
        'scope on a server' => ScopeServer::class, 'zone on a server' => ZoneServer::class,
        'member of a team' => TeamMember::class, 'port' => ProfilePort::class,
    ];

    /** What a server was brought to then says nothing of what it runs now. */
    private const OF_SERVERS = ['shipped_digest', 'shipped_at', 'verified_at', 'shipped_serial'];

    /** How a zone is signed. */
    private const SIGNING = ['policy_id', 'signed_since', 'unsign_asked', 'unsign_seen'];

    /** What says whose it is without the database minding: table → column. */
    private const POINTS = [
        ['option_values', 'layer_id'], ['settings', 'layer_id'], ['scope_ranges', 'class_id'], ['windows', 'site_id'],
        ['freezes', 'site_id'],
        ['reports', 'site_id'], ['audits', 'site_id'], ['approval_rules', 'value'], ['scan_schedules', 'space_id'],
        ['zone_keys', 'zone_id'], ['scopes', 'name_zone_id'],
    ];

    public static function take(Ledger $ledger, PastRow $row): void
    {
        $class = self::PARTS[$row->noun] ?? Nouns::classOf($row->noun) ?? throw new \LogicException("no kind $row->noun");
        $model = $class::query()->find($row->id);
        if ($row->after !== null && $model === null) {
            WayBack::refuseChanged($ledger, $row, 'It is gone.');
        }
        if ($row->after === null && $model !== null) {
            WayBack::refuseChanged($ledger, $row, 'It is there again.');
        }
        $changed = $model === null ? null : WayBack::same($row, array_diff_key(
            $model->readable($model->getAttributes()),
            array_flip(self::OF_SERVERS),
        ) + array_intersect_key($row->after ?? [], array_flip(self::OF_SERVERS)));
        if ($changed !== null) {
            WayBack::refuseChanged($ledger, $row, 'Its '.str_replace('_', ' ', $changed).' is another now; undo the later change first.');
        }
        self::keepSigning($ledger, $row, $model);
        try {
            match (true) {
                $model === null => self::makeAgain($class, $row),
                $row->before === null => self::removeAgain($ledger, $model, $row),
                default => self::changeBack($model, $row),
            };
        } catch (QueryException $e) {
            self::refuseHung($ledger, $row, (int) ($e->errorInfo[1] ?? 0)) ?: throw $e;
        }
    }

    /** How a zone is signed goes by what caches hold of it: there is no way back but by the acts that wait for them. */
    private static function keepSigning(Ledger $ledger, PastRow $row, ?Model $model): void
    {
        $touched = array_intersect_key(($row->before ?? []) + ($row->after ?? []), array_flip(self::SIGNING));
        if ($model instanceof Zone && $row->before !== null && $touched !== []) {
            $ledger->refuse(
                'no-way-back',
                ucfirst($row->called()).' is not taken back from here',
                'Its signing is changed on its own page: caches hold what was signed.',
                'RFC 6781 §4.1',
                link: at('name.zone.signing', $model->id),
            );
        }
        $zone = $model instanceof SigningPolicy && $row->before !== null
            ? Zone::query()->with('view')->where('policy_id', $model->id)->first() : null;
        $zone === null ?: WayBack::refuseChanged($ledger, $row, "{$zone->line()} is signed by it, and its keys were made by it as it is.");
    }

    /** @param  class-string<Model>  $class */
    private static function makeAgain(string $class, PastRow $row): void
    {
        $model = new $class;
        $raw = Raw::of($model, array_diff_key($row->before ?? [], array_flip(self::OF_SERVERS)));
        if ($model instanceof Zone) {
            // Its keys went with it: it comes back as one that is not signed.
            $raw = array_diff_key($raw, array_flip(self::SIGNING));
        }
        $model->setRawAttributes($raw + ['id' => $row->id] + ($model->versioned() ? ['version' => $row->nextVersion()] : []));
        $model->save();
        if ($model instanceof Zone) {
            Records::mark($model);
        }
    }

    private static function removeAgain(Ledger $ledger, Model $model, PastRow $row): void
    {
        foreach (self::POINTS as [$table, $column]) {
            if (DB::table($table)->where($column, $row->id)->exists()) {
                WayBack::refuseChanged($ledger, $row, 'Something was added to it.');
            }
        }
        if ($model instanceof Scope) {
            Scopes::remove($ledger, $model);

            return;
        }
        if ($model instanceof Zone) {
            // What was to be shipped of it goes with it.
            DB::table('record_changes')->where('zone_id', $model->id)->delete();
        }
        $model->delete();
    }

    private static function changeBack(Model $model, PastRow $row): void
    {
        $raw = Raw::of($model, array_diff_key($row->before ?? [], array_flip(self::OF_SERVERS)));
        $model->setRawAttributes($raw + $model->getAttributes());
        $model->save();
        if ($model instanceof Zone) {
            Records::mark($model);
        }
    }

    /** A refusal of the database in words; false when it is another trouble. */
    private static function refuseHung(Ledger $ledger, PastRow $row, int $code): bool
    {
        return match ($code) {
            1451 => WayBack::refuseChanged($ledger, $row, 'Something hangs on it now.'),
            1452 => WayBack::refuseChanged($ledger, $row, 'What it belonged to is gone.'),
            1062 => WayBack::refuseChanged($ledger, $row, 'Something else has its place now.'),
            default => false,
        };
    }

    /** Ranges of a scope lie in its subnet and not in each other, also when some of them came back. */
    public static function checkRanges(Ledger $ledger, string $id): void
    {
        $scope = Scope::query()->with(['ranges', 'prefix'])->find($id);
        if ($scope === null) {
            return;
        }
        $net = $scope->prefix->prefix();
        $last = null;
        foreach ($scope->ranges->sortBy(static fn (ScopeRange $r): string => $r->range()->first->bytes) as $one) {
            $range = $one->range();
            $outside = ! $net->contains($range->first) || ! $net->contains($range->last);
            if ($outside || $last !== null && strcmp($range->first->bytes, $last->last->bytes) <= 0) {
                $ledger->refuse(
                    'changed-since',
                    "The ranges of $scope->name were changed since",
                    $outside ? "$range is not in $net any more." : "$range and $last overlap.",
                    link: at('lease.scope', $scope->id),
                );
            }
            $last = $range;
        }
    }
}
