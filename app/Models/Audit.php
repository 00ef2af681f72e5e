<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use HarborPost\Core\Checks\Severity;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A rule of the team about its data: each of these must be so.
 *
 * @property string $name
 * @property FactKind $kind
 * @property ?string $site_id  with all sites below
 * @property list<array{fact: string, test: string, value: string, or?: bool}> $where
 * @property list<array{fact: string, test: string, value: string, or?: bool}> $must
 * @property Severity $severity
 * @property string $explanation
 * @property bool $active
 * @property AtEdit $at_edit
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
        'at_edit' => AtEdit::class,
        'run_at' => 'immutable_datetime',
    ];

    /** @var array<string, mixed> */
    protected $attributes = ['at_edit' => 'off'];

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
