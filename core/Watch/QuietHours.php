<?php

declare(strict_types=1);

namespace HarborPost\Core\Watch;

/** Hours of each day in which somebody is told nothing, by the clock on their wall; they may go over midnight. */
final readonly class QuietHours
{
    private const DAY = 1440;

    /**
     * @param  int  $from  minutes since midnight
     * @param  int  $to  as above, not in it any more
     */
    private function __construct(public int $from, public int $to, private \DateTimeZone $zone)
    {
    }

    /**
     * From HH:MM to HH:MM in a zone of the tz database.
     *
     * @throws \DomainException
     */
    public static function read(string $from, string $to, string $zone): self
    {
        [$a, $b] = [self::minutes($from), self::minutes($to)];

        return $a === $b ? throw new \DomainException('They begin and end at the same time') : new self($a, $b, self::zone($zone));
    }

    /** @throws \DomainException */
    public static function zone(string $zone): \DateTimeZone
    {
        return in_array($zone, \DateTimeZone::listIdentifiers(), true)
            ? new \DateTimeZone($zone)
            : throw new \DomainException("\"$zone\" is no time zone; one is written as Europe/London");
    }

    public function covers(\DateTimeImmutable $at): bool
    {
        $local = $at->setTimezone($this->zone);
        $now = 60 * (int) $local->format('G') + (int) $local->format('i');

        return $this->from < $this->to
            ? $now >= $this->from && $now < $this->to
            : $now >= $this->from || $now < $this->to;
    }

    /** The day on which the night that covers a moment began: what was told in one night belongs together. */
    public function night(\DateTimeImmutable $at): ?string
    {
        if (! $this->covers($at)) {
            return null;
        }
        $local = $at->setTimezone($this->zone);
        $now = 60 * (int) $local->format('G') + (int) $local->format('i');

        return ($this->from > $this->to && $now < $this->to ? $local->modify('-1 day') : $local)->format('Y-m-d');
    }

    public static function time(int $minutes): string
    {
        return sprintf('%02d:%02d', intdiv($minutes % self::DAY, 60), $minutes % 60);
    }

    private static function minutes(string $time): int
    {
        return preg_match('/\A([01]?\d|2[0-3]):([0-5]\d)\z/', trim($time), $m) === 1
            ? 60 * (int) $m[1] + (int) $m[2]
            : throw new \DomainException("\"$time\" is no time of the day; one is written as 22:00");
    }
}
