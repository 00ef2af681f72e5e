<?php

declare(strict_types=1);

namespace App\Models;

use App\Queries\Facts\Condition;
use App\Queries\Facts\FactKind;
use Carbon\CarbonImmutable;
use HarborPost\Core\Checks\Severity;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A rule of the team about its data: each of these must be so.
 *
 * @property string $name
 * @property FactKind $kind
 * @property ?string $site_id  with all sites below
 * @property list<array{fact: string, test: string, value: string}> $where
 * @property list<array{fact: string, test: string, value: string}> $must
 * @property Severity $severity
 * @property string $explanation
 * @property bool $active
 * @property ?CarbonImmutable $run_at
 * @property int $failing  when it was run last
 * @property-read ?Site $site
 */
final class Audit extends Model
{
    protected $table = 'audits';

    /** @var array<string, string> */
    protected $casts = [
        'kind' => FactKind::class, 'where' => 'array', 'must' => 'array', 'severity' => Severity::class, 'active' => 'boolean',
        'run_at' => 'immutable_datetime',
    ];

    /** "Each subnet of Outer Isles whose stage is live has a gateway and a VLAN." */
    public function sentence(): string
    {
        $words = fn (array $rows): string => implode(' and ', array_map(
            fn (Condition $c): string => $c->words($this->kind),
            Condition::all($this->kind, $rows),
        ));
        $where = $words($this->where);

        return "Of each {$this->kind->singular()}".($this->site === null ? '' : " at {$this->site->name}")
            .($where === '' ? '' : " whose $where").": {$words($this->must)}.";
    }

    /** @return BelongsTo<Site, $this> */
    public function site(): BelongsTo
    {
        return $this->belongsTo(Site::class);
    }

    public static function noun(): string
    {
        return 'audit';
    }

    public function line(): string
    {
        return $this->name;
    }
}
