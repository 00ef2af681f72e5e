<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Agreement\Rule;
use HarborPost\Core\Agreement\RuleKind;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * When others have to agree to a change.
 *
 * @property string $kind
 * @property string $value
 * @property int $needs
 * @property bool $active
 * @property ?string $team_id  who agrees; null: any approver
 * @property-read ?Team $team
 */
final class ApprovalRule extends Model
{
    /** Rows that are no part of the plan: the drafts themselves, people's own settings, and what servers and files told. */
    public const APART = [
        'draft', 'hand on a draft', 'edit', 'decision', 'remark', 'rule of agreement', 'person', 'import', 'lease', 'scan', 'sweep',
        'token', 'shipment',
        'report', 'audit', 'notice', 'notice rule', 'test of rights', 'shipping window', 'freeze', 'team', 'member of a team',
    ];

    protected $table = 'approval_rules';

    /** @var array<string, string> */
    protected $casts = ['active' => 'boolean'];

    /** @return BelongsTo<Team, $this> */
    public function team(): BelongsTo
    {
        return $this->belongsTo(Team::class);
    }

    public function rule(): Rule
    {
        $kind = RuleKind::from($this->kind);
        $called = match ($kind) {
            RuleKind::Rows => number_format((int) $this->value),
            RuleKind::Removes, RuleKind::Touches => $this->value,
            RuleKind::Site => Site::query()->find($this->value)->name ?? 'a site that is gone',
            default => '',
        };

        return new Rule($kind, $this->value, $called, $this->needs, $this->team_id, $this->team->name ?? '');
    }

    public static function noun(): string
    {
        return 'rule of agreement';
    }

    public function line(): string
    {
        return rtrim($this->rule()->sentence(), '.');
    }
}
