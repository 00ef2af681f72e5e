<?php

declare(strict_types=1);

namespace App\Models;

use HarborPost\Core\Checks\Severity;

/**
 * From when on people are told of one kind of trouble, and who.
 *
 * @property NoticeKind $kind
 * @property bool $active
 * @property Severity $level
 * @property int $threshold
 * @property int $minutes
 * @property list<string> $people  none: everybody who works on everything
 * @property int $after  minutes in which nobody looks after it, until others are told; 0: they never are
 * @property ?list<string> $further  those others
 */
final class NoticeRule extends Model
{
    protected $table = 'notice_rules';

    /** @var array<string, string> */
    protected $casts = ['kind' => NoticeKind::class, 'level' => Severity::class, 'active' => 'boolean', 'people' => 'array',
        'further' => 'array'];

    /** As it was laid down, or as is usual. */
    public static function of(NoticeKind $kind): self
    {
        return self::query()->where('kind', $kind->value)->first() ?? new self([
            'kind' => $kind, 'active' => true, 'level' => $kind->usualLevel(), 'threshold' => $kind->usualThreshold(),
            'minutes' => $kind->usualMinutes(), 'people' => [], 'after' => 0, 'further' => [],
        ]);
    }

    public static function noun(): string
    {
        return 'notice rule';
    }

    public function line(): string
    {
        return $this->kind->title();
    }
}
