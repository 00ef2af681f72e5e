<?php

declare(strict_types=1);

namespace HarborPost\Core\Shipping;

/**
 * A time of the week in which servers are shipped to, in the time of a place. It begins by the wall clock there and lasts its minutes, also
 * in a night in which clocks are moved: a beginning that a spring night leaves out is as much later as the clocks went on, one that an
 * autumn night has twice is the first.
 */
final readonly class Window
{
    public const LONGEST = 24 * 60;

    private const DAYS = [1 => 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

    /**
     * @param  non-empty-list<int>  $days  of the week, 1 for Monday, rising
     * @param  int  $starts  minute of the day
     */
    private function __construct(public array $days, public int $starts, public int $minutes, public \DateTimeZone $zone)
    {
    }

    /**
     * @param  list<int>  $days
     *
     * @throws \InvalidArgumentException with words for people
     */
    public static function of(array $days, string $starts, int $minutes, string $zone): self
    {
        $days = array_values(array_unique($days));
        sort($days);
        if ($days === [] || $days[0] < 1 || $days[count($days) - 1] > 7) {
            throw new \InvalidArgumentException('a window needs at least one day of the week');
        }
        if (preg_match('/\A([01]?\d|2[0-3]):([0-5]\d)\z/', $starts, $m) !== 1) {
            throw new \InvalidArgumentException("\"$starts\" is no time of the day: write it as 22:00");
        }
        if ($minutes < 5 || $minutes > self::LONGEST) {
            throw new \InvalidArgumentException('a window lasts from 5 minutes to 24 hours');
        }
        if (! in_array($zone, \DateTimeZone::listIdentifiers(), true)) {
            throw new \InvalidArgumentException("\"$zone\" is no time zone: one is named by a place, as Europe/London");
        }

        return new self($days, (int) $m[1] * 60 + (int) $m[2], $minutes, new \DateTimeZone($zone));
    }

    /** The opening in which a moment lies; of two that touch, the later. */
    public function at(\DateTimeImmutable $moment): ?Span
    {
        // One that began yesterday may still be open.
        for ($back = 0; $back <= 2; $back++) {
            $span = $this->on($moment->setTimezone($this->zone)->setTime(0, 0)->modify("-$back day"));
            if ($span !== null && $span->holds($moment)) {
                return $span;
            }
        }

        return null;
    }

    /** The first opening that begins after a moment. */
    public function after(\DateTimeImmutable $moment): Span
    {
        $date = $moment->setTimezone($this->zone)->setTime(0, 0);
        for ($i = 0; $i < 9; $i++, $date = $date->modify('+1 day')) {
            $span = $this->on($date);
            if ($span !== null && $span->from > $moment) {
                return $span;
            }
        }
        throw new \LogicException('a week without a day');
    }

    /** @return list<Span> every opening that has a part between two moments, in order */
    public function between(\DateTimeImmutable $from, \DateTimeImmutable $to): array
    {
        $spans = [];
        $date = $from->setTimezone($this->zone)->setTime(0, 0)->modify('-2 day');
        for (; $date < $to; $date = $date->modify('+1 day')) {
            $span = $this->on($date);
            if ($span !== null && $span->to > $from && $span->from < $to) {
                $spans[] = $span;
            }
        }

        return $spans;
    }

    public function words(): string
    {
        $days = count($this->days) === 7 ? 'daily' : implode(', ', array_map(static fn (int $d): string => self::DAYS[$d], $this->days));
        if ($this->days === [1, 2, 3, 4, 5]) {
            $days = 'Monday to Friday';
        }
        $long = intdiv($this->minutes, 60);
        $rest = $this->minutes % 60;
        $lasts = implode(' ', array_filter([$long > 0 ? "$long h" : '', $rest > 0 ? "$rest min" : '']));

        return sprintf('%s %02d:%02d for %s, %s', $days, intdiv($this->starts, 60), $this->starts % 60, $lasts, $this->zone->getName());
    }

    private function on(\DateTimeImmutable $date): ?Span
    {
        if (! in_array((int) $date->format('N'), $this->days, true)) {
            return null;
        }
        $from = $date->setTime(intdiv($this->starts, 60), $this->starts % 60);

        // Counted in seconds: minutes added by the wall clock are lost or doubled where clocks are moved.
        return new Span($from, $from->setTimestamp($from->getTimestamp() + 60 * $this->minutes));
    }
}
