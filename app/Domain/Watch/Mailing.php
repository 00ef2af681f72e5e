<?php

declare(strict_types=1);

namespace App\Domain\Watch;

use App\Models\MailWhen;
use App\Models\Notice;
use App\Models\NoticeRule;
use App\Models\Person;
use App\Models\ReportState;
use App\Queries\Waiting;
use Carbon\CarbonImmutable;
use HarborPost\Core\Watch\QuietHours;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/**
 * Writes the mails that people get: each cause once a person, many notices of one moment in one mail, so that a storm is no hundred mails.
 * Of what is in a mail, nothing goes beyond what its reader may see: reports are those that were made for them.
 */
final class Mailing
{
    private const LISTED = 30;

    /** Bytes of a file that hang on a mail; a larger report is linked alone. */
    private const MOST = 8_000_000;

    /** @return int mails that were written now */
    public static function collect(): int
    {
        $now = CarbonImmutable::now();
        $written = 0;
        foreach (Person::query()->where('active', true)->whereNotNull('mail')->where('mail_when', '!=', MailWhen::Never)
            ->lazy(200) as $person) {
            $quiet = $person->quietHours();
            if ($quiet?->covers($now) === true) {
                $written += $person->mail_when === MailWhen::Now ? self::raised($person, $now, self::notices($person)) : 0;

                continue;
            }
            $written += self::reports($person, $now);
            $written += $person->mail_when === MailWhen::Now ? self::atOnce($person, $now, $quiet) : self::daily($person, $now);
        }

        return $written;
    }

    private static function reports(Person $person, CarbonImmutable $now): int
    {
        $written = 0;
        $runs = DB::table('report_runs')->join('reports', 'reports.id', '=', 'report_runs.report_id')->where('person_id', $person->id)
            ->whereNotNull('done_at')->where('done_at', '>', $now->subDay())
            ->get(['report_runs.id', 'report_runs.state', 'report_runs.words', 'report_runs.body', 'reports.name']);
        foreach ($runs as $run) {
            $file = $run->state === ReportState::Done->value && strlen((string) $run->body) <= self::MOST;
            $written += self::write($person, "report $run->id", "Report: $run->name", [
                "$run->name: $run->words.", '',
                $run->state === ReportState::Done->value ? 'As a page: '.url(at('watch.run', $run->id)) : url(at('watch.reports')),
            ], $file ? trim((string) preg_replace('/[^A-Za-z0-9-]+/', '-', (string) $run->name), '-').'.csv' : null, $file ? $run->body
                : null);
        }

        return $written;
    }

    /**
     * What nobody looked after was told further: that comes in quiet hours too, since nobody else is left.
     *
     * @param  Collection<int, Notice>  $notices
     */
    private static function raised(Person $person, CarbonImmutable $now, Collection $notices): int
    {
        $written = 0;
        foreach (self::toldFurther($person, $now, $notices)->groupBy(
            static fn (Notice $n): string => (string) $n->raised_at?->format('YmdHis'),
        ) as $moment => $of) {
            $written += self::write($person, "raised $moment", 'Nobody looks after it: '.self::title($of), self::lines($of));
        }

        return $written;
    }

    /**
     * @param  Collection<int, Notice>  $notices
     * @return Collection<int, Notice>
     */
    private static function toldFurther(Person $person, CarbonImmutable $now, Collection $notices): Collection
    {
        $further = NoticeRule::query()->whereJsonContains('further', $person->id)->pluck('kind')->all();

        return $notices->filter(static fn (Notice $n): bool => $n->raised_at > $now->subDay() && in_array($n->kind, $further, true));
    }

    private static function atOnce(Person $person, CarbonImmutable $now, ?QuietHours $quiet): int
    {
        $notices = self::notices($person);
        $written = self::raised($person, $now, $notices);
        // Told in one moment, or in one night, they are one mail; whom it reached because it was raised has that one.
        $told = $notices->diff(self::toldFurther($person, $now, $notices))
            ->filter(static fn (Notice $n): bool => $n->told_at > $now->subDay());
        $moment = static fn (Notice $n): string => $n->told_at === null
            ? ''
            : ($quiet?->night($n->told_at) ?? $n->told_at->format('YmdHis'));
        foreach ($told->groupBy($moment) as $moment => $of) {
            $written += self::write($person, "notices $moment", self::title($of), self::lines($of));
        }
        foreach (Waiting::drafts($person)->limit(50)->get() as $draft) {
            $written += self::write($person, "draft $draft->id {$draft->submitted_at?->getTimestamp()}", 'A draft waits for you: '
                .$draft->line(), [
                    $draft->line(), (string) $draft->getAttribute('why'), '', url(at('ship.draft', $draft->id)),
                ]);
        }

        return $written;
    }

    /** Once a day, at the hour that somebody chose, or that of the settings; nothing when there is nothing. */
    private static function daily(Person $person, CarbonImmutable $now): int
    {
        $due = $now->setTimezone($person->mailZone())->setTime($person->mail_hour ?? (int) config('harbor.mail.hour'), 0);
        $cause = 'daily '.$due->format('Y-m-d');
        if ($now < $due || DB::table('mails')->where('person_id', $person->id)->where('cause', $cause)->exists()) {
            return 0;
        }
        $notices = self::notices($person);
        $drafts = Waiting::drafts($person)->limit(self::LISTED)->get();
        if ($notices->isEmpty() && $drafts->isEmpty()) {
            return 0;
        }
        $lines = $notices->isEmpty() ? [] : self::lines($notices);
        if ($drafts->isNotEmpty()) {
            array_push($lines, '', 'Drafts that wait for you:',
                ...$drafts->map(static fn ($d): string => "- {$d->line()}: ".url(at('ship.draft', $d->id))));
        }
        $parts = array_filter([
            $notices->isEmpty() ? '' : ($notices->count() === 1 ? '1 notice' : $notices->count().' notices'),
            $drafts->isEmpty() ? '' : ($drafts->count() === 1 ? '1 draft' : $drafts->count().' drafts'),
        ]);

        return self::write($person, $cause, 'What calls for you: '.implode(', ', $parts), $lines);
    }

    /** @return Collection<int, Notice> that call for this person now */
    private static function notices(Person $person): Collection
    {
        if ($person->isBound() || ! $person->operatesAll()) {
            return new Collection;
        }

        return Notice::callsFor($person)->orderByDesc('told_at')->limit(500)->get()->toBase();
    }

    /** @param  Collection<int, Notice>  $of */
    private static function title(Collection $of): string
    {
        return $of->count() === 1 ? (string) $of->first()?->title : "{$of->count()} things call for you, first: {$of->first()?->title}";
    }

    /**
     * @param  Collection<int, Notice>  $of
     * @return list<string>
     */
    private static function lines(Collection $of): array
    {
        $lines = [];
        foreach ($of->take(self::LISTED) as $notice) {
            array_push($lines, "- $notice->title", "  $notice->words", '  '.url($notice->link), '');
        }
        $of->count() > self::LISTED ? array_push($lines, 'and '.($of->count() - self::LISTED).' more: '.url(at('watch.notices'))) : null;

        return $lines;
    }

    /** @param  list<string>  $lines */
    private static function write(Person $person, string $cause, string $subject, array $lines, ?string $file = null,
        ?string $content = null): int
    {
        $lines = [...$lines, '', '-- ', 'Harbor Post. When you get mail is said at '.url(at('me')).'.'];

        return DB::table('mails')->insertOrIgnore([
            'person_id' => $person->id, 'cause' => $cause, 'address' => $person->mail, 'subject' => mb_strimwidth(
                (string) preg_replace('/\s+/', ' ', $subject),
                0,
                200,
                '…',
            ),
            'body' => implode("\n", $lines)."\n", 'file' => $file, 'content' => $content, 'made_at' => now(), 'next_at' => now(),
        ]);
    }
}
