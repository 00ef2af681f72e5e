<?php

declare(strict_types=1);

namespace App\View;

use App\Models\Freeze;
use App\Models\Server;
use App\Queries\ShipTimes;
use Illuminate\Support\HtmlString;

/** The next seven days of one server: when its windows open, and when nothing is shipped. In UTC, like all times of the application. */
final readonly class WeekStrip
{
    private const HEIGHT = 22;

    private const DAYS = 7;

    private \DateTimeImmutable $from;

    private \DateTimeImmutable $to;

    public function __construct(private ShipTimes $times)
    {
        $this->from = now()->utc()->startOfDay()->toDateTimeImmutable();
        $this->to = $this->from->modify('+'.self::DAYS.' days');
    }

    /** The days, as a head over the strips. */
    public function head(): HtmlString
    {
        $days = '';
        for ($i = 0; $i < self::DAYS; $i++) {
            $days .= sprintf('<text x="%.3f%%" y="12" class="sub">%s</text>', $i * 100 / self::DAYS, $this->from->modify("+$i days")
                ->format('D j'));
        }

        return new HtmlString('<svg class="strip" width="100%" height="16" aria-hidden="true">'.$days.'</svg>');
    }

    public function of(Server $server): HtmlString
    {
        $svg = '';
        for ($i = 0; $i <= self::DAYS; $i++) {
            $svg .= sprintf('<line x1="%1$.3f%%" x2="%1$.3f%%" y1="0" y2="%2$d" class="tickline"/>', $i * 100 / self::DAYS, self::HEIGHT);
        }
        $words = [];
        foreach ($this->times->windowsOf($server) as $row) {
            foreach ($row->window()->between($this->from, $this->to) as $span) {
                $svg .= $this->bar($span->from, $span->to, 'slot', "$row->name: ".self::span($span->from, $span->to));
                $words[] = 'open '.self::span($span->from, $span->to);
            }
        }
        foreach ($this->times->freezesOf($server) as $freeze) {
            if ($freeze->starts_at < $this->to) {
                $svg .= $this->bar($freeze->starts_at, $freeze->ends_at, 'frost', "$freeze->why: "
                    .self::span($freeze->starts_at, $freeze->ends_at));
                $words[] = self::frozen($freeze);
            }
        }
        $now = $this->at(now()->toDateTimeImmutable());
        $svg .= sprintf('<line x1="%1$.3f%%" x2="%1$.3f%%" y1="0" y2="%2$d" class="nowline"/>', $now, self::HEIGHT);

        return new HtmlString(sprintf(
            '<svg class="strip week" width="100%%" height="%d" role="img" aria-label="%s">%s</svg>',
            self::HEIGHT,
            e("$server->name, seven days in UTC: ".($words === [] ? 'no window' : implode('; ', $words))),
            $svg,
        ));
    }

    private static function frozen(Freeze $freeze): string
    {
        return 'frozen '.self::span($freeze->starts_at, $freeze->ends_at);
    }

    private static function span(\DateTimeInterface $from, \DateTimeInterface $to): string
    {
        $utc = static fn (\DateTimeInterface $d, string $form): string => gmdate($form, $d->getTimestamp());

        return $utc($from, 'D j M H:i').' to '.($utc($from, 'Ymd') === $utc($to, 'Ymd') ? $utc($to, 'H:i') : $utc($to, 'D j M H:i'));
    }

    private function bar(\DateTimeInterface $from, \DateTimeInterface $to, string $look, string $title): string
    {
        $x = $this->at($from);
        $width = $this->at($to) - $x;

        return $width <= 0 ? '' : sprintf(
            '<rect x="%.3f%%" width="%.3f%%" y="3" height="%d" class="%s"><title>%s</title></rect>',
            $x,
            max(0.25, $width),
            self::HEIGHT - 6,
            $look,
            e($title),
        );
    }

    /** Percent across. */
    private function at(\DateTimeInterface $moment): float
    {
        $all = $this->to->getTimestamp() - $this->from->getTimestamp();

        return max(0.0, min(100.0, 100 * ($moment->getTimestamp() - $this->from->getTimestamp()) / $all));
    }
}
