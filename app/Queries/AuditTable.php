<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Audit;
use App\Queries\Facts\Condition;
use Illuminate\Database\Query\Builder;

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

    public function all(): Builder
    {
        $kind = $this->audit->kind;
        $sites = $this->audit->site_id === null ? null : SitesBelow::of($this->audit->site_id);

        return $kind->query($this->reach, $sites, Condition::all($kind, $this->audit->where));
    }

    /** Those of which not everything is so that must be. */
    public function failing(): Builder
    {
        $kind = $this->audit->kind;
        $must = Condition::all($kind, $this->audit->must);

        return $this->all()->where(function (Builder $any) use ($kind, $must): void {
            foreach ($must as $condition) {
                $any->orWhere(function (Builder $one) use ($kind, $condition): void {
                    $holds = $one->newQuery();
                    $condition->test->narrow($holds, $kind->facts()[$condition->fact], $condition->value);
                    // What is not known does not hold.
                    foreach ((array) $holds->wheres as $where) {
                        $sql = is_array($where) && is_string($where['sql'] ?? null) ? $where['sql'] : '1 = 1';
                        $one->whereRaw("NOT COALESCE(($sql), FALSE)", $holds->getBindings());
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
        $fact = $kind->facts()[$kind->title()];
        $more = $kind->facts()['name'] ?? null;
        $query = (clone $query)->selectRaw("{$kind->id()} AS object_id, ($fact->sql) AS title");
        $more === null || $kind->title() === 'name' ? null : $query->selectRaw("($more->sql) AS more");
        $titles = [];
        foreach ($query->orderByRaw($kind->id())->get() as $row) {
            $titles[(string) $row->object_id] = trim($fact->type->shown($row->title).' '.($row->more ?? ''));
        }

        return $titles;
    }
}
