<?php

declare(strict_types=1);

namespace App\Api;

use App\Acts\Engine\Note;
use App\Acts\Engine\Outcome;
use App\Acts\Engine\Written;

/** What followed of an act, or would follow, as programs are told it. */
final class Told
{
    /** How answers are put into words. */
    public const JSON = JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE;

    /** @return array<string, mixed> */
    public static function outcome(Outcome $outcome, bool $committed): array
    {
        return [
            'committed' => $committed,
            'written' => array_map(static fn (Written $w): array => array_filter([
                'op' => $w->word(), 'kind' => $w->noun, 'id' => $w->id,
                'line' => $w->line,
                'before' => $w->op === 'turn' ? $w->before : null, 'after' => $w->op === 'turn' ? $w->after : null,
                'version' => $w->versionAfter,
            ], static fn (mixed $v): bool => $v !== null), $outcome->written()),
            'bulk' => $outcome->bulk(),
            'checks' => array_map(static fn (Note $n): array => array_filter([
                'verdict' => $n->verdict->value, 'code' => $n->code, 'message' => $n->message, 'why' => $n->why, 'standard' => $n->standard,
                'field' => $n->field, 'offer' => $n->offer,
            ], static fn (mixed $v): bool => $v !== null && $v !== ''), $outcome->notes()),
            'later' => $outcome->later(),
            'needs_agreement' => array_map(static fn ($r): string => $r->sentence(), $outcome->needs),
        ] + ($outcome->trouble === null ? [] : ['trouble' => $outcome->trouble]);
    }
}
