<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use App\Models\Notice;
use App\Models\NoticeKind;
use App\Models\NoticeRule;
use App\Queries\Conditions;
use Carbon\CarbonImmutable;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/**
 * Looks what holds now and keeps one notice for each cause: told of when it held long enough, over when it holds no more. A server that
 * cannot be read silences what would be said of its zones and leases: that follows from it.
 */
final class NoticeLook
{
    private const PART = 500;

    /** @return array{told: int, over: int} */
    public static function now(): array
    {
        $rules = array_map(NoticeRule::of(...), NoticeKind::cases());
        $now = CarbonImmutable::now();
        [$found, $silent] = self::found($rules);
        $open = DB::table('notices')->whereNotNull('cause')->get(['id', 'cause', 'title', 'words'])->keyBy('cause');
        $over = $open->diffKeys($found)->pluck('id')->all();
        foreach (array_chunk($over, self::PART) as $ids) {
            DB::table('notices')->whereIn('id', $ids)->update(['cause' => null, 'over_at' => $now]);
        }
        $rows = [];
        foreach ($found as $cause => $trouble) {
            $known = $open[$cause] ?? null;
            $text = [
                'title' => mb_strimwidth($trouble['title'], 0, 240, '…'), 'words' => mb_strimwidth($trouble['words'], 0, 240, '…'),
                'link' => $trouble['link'],
            ];
            if ($known === null) {
                $rows[] = ['id' => (string) Str::ulid(), 'kind' => $trouble['kind'], 'cause' => $cause, 'since' => $now] + $text;
            } elseif ($known->title !== $text['title'] || $known->words !== $text['words']) {
                DB::table('notices')->where('id', $known->id)->update($text);
            }
        }
        foreach (array_chunk($rows, self::PART) as $part) {
            // Two that look at once find one cause once.
            DB::table('notices')->insertOrIgnore($part);
        }

        return ['told' => self::tell($rules, $silent, $now), 'over' => count($over)];
    }

    /**
     * @param  list<NoticeRule>  $rules
     * @return array{array<string, array{kind: string, title: string, words: string, link: string}>, list<string>} cause → what holds; and
     *     causes that follow from a server that cannot be read
     */
    private static function found(array $rules): array
    {
        $found = $silent = $servers = [];
        foreach ($rules as $rule) {
            foreach ($rule->active ? Conditions::of($rule) : [] as $trouble) {
                $cause = "{$rule->kind->value}:{$trouble['object']}";
                $found[$cause] = ['kind' => $rule->kind->value] + $trouble;
                $rule->kind === NoticeKind::Silent ? $servers[$trouble['object']] = true : null;
                isset($servers[$trouble['server'] ?? '']) ? $silent[] = $cause : null;
            }
        }

        return [$found, $silent];
    }

    /**
     * @param  list<NoticeRule>  $rules
     * @param  list<string>  $silent
     */
    private static function tell(array $rules, array $silent, CarbonImmutable $now): int
    {
        $told = 0;
        foreach ($rules as $rule) {
            $told += DB::table('notices')->where('kind', $rule->kind->value)->whereNotNull('cause')->whereNull('told_at')
                ->where('since', '<=', $now->subMinutes($rule->minutes))->whereNotIn('cause', $silent)->update(['told_at' => $now]);
            if ($rule->after > 0) {
                Notice::calling()->where('kind', $rule->kind)->whereNull('raised_at')
                    ->where('told_at', '<=', $now->subMinutes($rule->after))->toBase()->update(['raised_at' => $now]);
            }
        }

        return $told;
    }
}
