<?php

declare(strict_types=1);

namespace HarborPost\Core\Watch;

/**
 * When something runs again, in the time of a place: never twice for one day, never lost where clocks are moved. A time that a spring night
 * leaves out is taken as the same count of minutes after the clocks went on; one that an autumn night has twice is taken the first time.
 */
final readonly class Timetable
{
    /**
     * @param  int  $day  of the week from 1 for Monday, or of the month from 1; a month that is shorter takes its last day
     * @param  int  $minute  of the day
     */
    private function __construct(public Every $every, public int $day, public int $minute, public \DateTimeZone $zone)
    {
    }

    /** @throws \InvalidArgumentException with words for people */
    public static function of(Every $every, int $day, string $time, string $zone): self
    {
        if (preg_match('/\A([01]?\d|2[0-3]):([0-5]\d)\z/', $time, $m) !== 1) {
            throw new \InvalidArgumentException("\"$time\" is no time of the day: write it as 07:00");
        }
        if (! in_array($zone, \DateTimeZone::listIdentifiers(), true)) {
            throw new \InvalidArgumentException("\"$zone\" is no time zone: one is named by a place, as Europe/London");
        }
        $most = $every === Every::Week ? 7 : ($every === Every::Month ? 31 : 1);
        if ($day < 1 || $day > $most) {
            throw new \InvalidArgumentException("the day is a number from 1 to $most");
        }

        return new self($every, $day, (int) $m[1] * 60 + (int) $m[2], new \DateTimeZone($zone));
    }

    /** The first run after a moment. */
    public function after(\DateTimeImmutable $moment): \DateTimeImmutable
    {
        $local = $moment->setTimezone($this->zone);
        // Two months hold at least one run of any kind.
        for ($date = $local->setTime(0, 0), $i = 0; $i < 63; $i++, $date = $date->modify('+1 day')) {
            $run = $this->on((int) $date->format('Y'), (int) $date->format('n'), (int) $date->format('j'));
            if ($run !== null && $run > $moment) {
                return $run;
            }
        }
        throw new \LogicException('a timetable without runs');
    }

    /** @return list<\DateTimeImmutable> the next runs */
    public function next(\DateTimeImmutable $moment, int $count): array
    {
        $runs = [];
        while (count($runs) < $count) {
            $runs[] = $moment = $this->after($moment);
        }

        return $runs;
    }

    public function words(): string
    {
        $days = [1 => 'Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];
        $when = match ($this->every) {
            Every::Day => 'daily',
            Every::Week => $days[$this->day],
            Every::Month => $this->day === 31 ? 'on the last day of each month' : "on day $this->day of each month",
        };

        return $when.sprintf(' %02d:%02d ', intdiv($this->minute, 60), $this->minute % 60).$this->zone->getName();
    }

    private function on(int $year, int $month, int $day): ?\DateTimeImmutable
    {
        $date = \DateTimeImmutable::createFromFormat('!Y-n-j', "$year-$month-$day", $this->zone);
        if ($date === false) {
            return null;
        }
        $falls = match ($this->every) {
            Every::Day => true,
            Every::Week => (int) $date->format('N') === $this->day,
            Every::Month => $day === min($this->day, (int) $date->format('t')),
        };

        return $falls ? $date->setTime(intdiv($this->minute, 60), $this->minute % 60) : null;
    }
}
