<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Audit;
use App\Queries\Facts\Catalogue;
use App\Queries\Facts\Condition;
use App\Queries\Facts\FactQuery;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** What a rule about the data judges, and what of it fails: found in sets, not row by row. */
final readonly class AuditTable
{
    private function __construct(private Audit $audit, private Reach $reach)
    {
    }

    public static function of(Audit $audit, Reach $reach): self
    {
        return new self($audit, $reach);
    }

    /** "Of each subnet at Outer Isles whose stage is live: gateway is there and VLAN is there." */
    public static function sentence(Audit $audit): string
    {
        $words = static fn (array $rows): string => Condition::sentence($audit->kind, Condition::all($audit->kind, $rows));
        $where = $words($audit->where);

        return "Of each {$audit->kind->singular()}".($audit->site === null ? '' : " at {$audit->site->name}")
            .($where === '' ? '' : " whose $where").": {$words($audit->must)}.";
    }

    /** How many findings of a rule stand, and are not left so. */
    public static function open(string $audit): int
    {
        return DB::table('audit_findings')->where('audit_id', $audit)
            ->where(static fn ($q) => $q->whereNull('waived_until')->orWhere('waived_until', '<', now()->toDateString()))->count();
    }

    public function all(): Builder
    {
        $kind = $this->audit->kind;
        $sites = $this->audit->site_id === null ? null : SitesBelow::of($this->audit->site_id);

        return FactQuery::of($kind, $this->reach, $sites, Condition::all($kind, $this->audit->where));
    }

    /** Those of which not everything is so that must be. */
    public function failing(): Builder
    {
        $kind = $this->audit->kind;
        $must = Condition::groups(Condition::all($kind, $this->audit->must));

        return $this->all()->where(static function (Builder $any) use ($kind, $must): void {
            foreach ($must as $group) {
                // None of the group holds; what is not known does not hold.
                $any->orWhere(static function (Builder $none) use ($kind, $group): void {
                    foreach ($group as $condition) {
                        $holds = $none->newQuery();
                        $condition->test->narrow($holds, Catalogue::of($kind)[$condition->fact], $condition->value);
                        foreach ((array) $holds->wheres as $where) {
                            $sql = is_array($where) && is_string($where['sql'] ?? null) ? $where['sql'] : '1 = 1';
                            $none->whereRaw("NOT COALESCE(($sql), FALSE)", $holds->getBindings());
                        }
                    }
                });
            }
        });
    }

    /**
     * @param  Builder  $query  of all() or failing()
     * @return array<string, string> id → how the object is called
     */
    public function titles(Builder $query): array
    {
        $kind = $this->audit->kind;
        $fact = Catalogue::of($kind)[Catalogue::title($kind)];
        $more = Catalogue::of($kind)['name'] ?? null;
        $query = (clone $query)->selectRaw(FactQuery::id($kind)." AS object_id, ($fact->sql) AS title");
        $more === null || Catalogue::title($kind) === 'name' ? null : $query->selectRaw("($more->sql) AS more");
        $titles = [];
        foreach ($query->orderByRaw(FactQuery::id($kind))->get() as $row) {
            $titles[(string) $row->object_id] = trim($fact->type->shown($row->title).' '.($row->more ?? ''));
        }

        return $titles;
    }
}
