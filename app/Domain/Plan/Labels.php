<?php

declare(strict_types=1);

namespace App\Domain\Plan;

use App\Acts\Engine\Ledger;
use App\Domain\Directory\OwnValue;
use App\Models\OwnField;
use App\Models\Prefix;
use Illuminate\Support\Facades\DB;

/** Tags, own fields and the origin of prefixes: what people add to the facts. */
final class Labels
{
    /**
     * @param  string  $text  tags apart by commas; `+tag` adds and `-tag` takes away, anything else replaces all; `-` empties
     */
    public static function tag(Ledger $ledger, Prefix $row, string $text): void
    {
        $words = array_values(array_filter(array_map(trim(...), explode(',', $text)), fn (string $t): bool => $t !== ''));
        $now = $row->tags ?? [];
        $changes = $words !== [] && array_filter($words, fn (string $w): bool => ! in_array($w[0], ['+', '-'], true)) === [];
        if ($text === '-') {
            $now = [];
        } elseif ($changes) {
            foreach ($words as $word) {
                $tag = trim(substr($word, 1));
                $now = $word[0] === '+' ? [...$now, $tag] : array_filter($now, fn (string $t): bool => $t !== $tag);
            }
        } else {
            $now = $words;
        }
        $now = array_values(array_unique(array_map(mb_strtolower(...), array_filter($now, fn (string $t): bool => $t !== ''))));
        sort($now);
        foreach ($now as $tag) {
            if (mb_strlen($tag) > 60) {
                $ledger->refuse('long-tag', "The tag \"$tag\" is longer than 60 characters", field: 'tags');
            }
        }
        if ($now !== ($row->tags ?? [])) {
            $row->tags = $now === [] ? null : $now;
        }
    }

    /** Keeps the index of tags in step with a saved row. */
    public static function index(Prefix $row): void
    {
        DB::table('prefix_tags')->where('prefix_id', $row->id)->delete();
        DB::table('prefix_tags')->insert(array_map(fn (string $t): array => ['prefix_id' => $row->id, 'tag' => $t], $row->tags ?? []));
    }

    /** @param  array<mixed>  $values  field id → value; `-` empties */
    public static function own(Ledger $ledger, Prefix $row, array $values): void
    {
        $now = $row->own ?? [];
        foreach (OwnField::query()->whereIn('id', array_keys($values))->get() as $field) {
            $value = is_scalar($values[$field->id] ?? null) ? trim((string) $values[$field->id]) : '';
            if ($value === '') {
                continue;
            }
            if ($value === '-') {
                unset($now[$field->id]);

                continue;
            }
            OwnValue::check($ledger, $field, $value);
            $now[$field->id] = $value;
        }
        ksort($now);
        if ($now !== ($row->own ?? [])) {
            $row->own = $now === [] ? null : $now;
        }
    }

    /** Who allocated a top holding, when, under which handle. */
    public static function origin(Ledger $ledger, Prefix $row, ?string $who, ?string $on, ?string $handle): void
    {
        foreach (['origin' => $who, 'origin_handle' => $handle] as $column => $text) {
            if ($text !== null) {
                $row->setAttribute($column, $text === '-' ? '' : $text);
            }
        }
        if ($on !== null && $on !== '') {
            $date = $on === '-' ? null : \DateTimeImmutable::createFromFormat('!Y-m-d', $on);
            if ($date === false || $date !== null && $date->format('Y-m-d') !== $on) {
                $ledger->refuse('bad-date', "\"$on\" is no date", 'Write it as 2026-03-31.', null, 'originOn');
            }
            $row->setAttribute('origin_on', $date?->format('Y-m-d'));
        }
        if ($row->parent_id !== null && $row->isDirty(['origin', 'origin_on', 'origin_handle']) && ($row->origin ?? '') !== '') {
            $ledger->warn(
                'origin-inside',
                "{$row->line()} is no top holding",
                'The origin of what holds it says who allocated it.',
                null,
                'origin',
            );
        }
    }
}
