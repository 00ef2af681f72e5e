<?php

declare(strict_types=1);

namespace App\Queries;

use App\Models\Freeze;
use App\Models\Server;
use App\Models\ShipsWhen;
use App\Models\ShipWindow;
use HarborPost\Core\Shipping\Span;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** When servers are shipped to and when not: windows and freezes of a server, of its site and those around it, and of all. */
final readonly class ShipTimes
{
    /** @var Collection<int, ShipWindow> */
    public Collection $windows;

    /** @var Collection<int, Freeze> those that did not end */
    public Collection $freezes;

    /** @var array<string, ?string> site → the one around it */
    private array $around;

    private function __construct(private \DateTimeImmutable $now)
    {
        $this->windows = ShipWindow::query()->with(['server', 'site'])->orderBy('name')->get();
        $this->freezes = Freeze::query()->with(['server', 'site'])->where('ends_at', '>', $now->format('Y-m-d H:i:s'))
            ->orderBy('starts_at')->get();
        $this->around = DB::table('sites')->pluck('parent_id', 'id')->all();
    }

    public static function now(?\DateTimeImmutable $now = null): self
    {
        return new self($now ?? now()->toDateTimeImmutable());
    }

    /** The freeze that keeps a server from being shipped to. */
    public function frozen(Server $server): ?Freeze
    {
        return $this->freezes->first(fn (Freeze $f): bool => $this->isFor($f, $server) && $f->starts_at <= $this->now);
    }

    /** @return list<ShipWindow> */
    public function windowsOf(Server $server): array
    {
        return array_values($this->windows->filter(fn (ShipWindow $w): bool => $this->isFor($w, $server))->all());
    }

    /** @return list<Freeze> */
    public function freezesOf(Server $server): array
    {
        return array_values($this->freezes->filter(fn (Freeze $f): bool => $this->isFor($f, $server))->all());
    }

    /** The opening of a window that is now, the one that lasts longest. */
    public function open(Server $server): ?Span
    {
        $longest = null;
        foreach ($this->windowsOf($server) as $window) {
            $span = $window->window()->at($this->now);
            $longest = $span !== null && ($longest === null || $span->to > $longest->to) ? $span : $longest;
        }

        return $longest;
    }

    /** Is this a server that is shipped to in its windows, and none is open? */
    public function isShut(Server $server): bool
    {
        return $server->ships === ShipsWhen::Windows && $this->open($server) === null;
    }

    /** The next opening that is not frozen when it begins. */
    public function next(Server $server): ?Span
    {
        $first = null;
        foreach ($this->windowsOf($server) as $row) {
            $window = $row->window();
            $span = $window->after($this->now);
            for ($i = 0; $i < 60 && $this->isFrozenAt($server, $span->from); $i++) {
                $span = $window->after($span->from);
            }
            $first = $first === null || $span->from < $first->from ? $span : $first;
        }

        return $first;
    }

    private function isFrozenAt(Server $server, \DateTimeImmutable $moment): bool
    {
        return $this->freezes->contains(
            fn (Freeze $f): bool => $this->isFor($f, $server) && $f->starts_at <= $moment && $moment < $f->ends_at,
        );
    }

    private function isFor(ShipWindow|Freeze $row, Server $server): bool
    {
        if ($row->server_id !== null) {
            return $row->server_id === $server->id;
        }
        if ($row->site_id === null) {
            return true;
        }
        for ($at = $server->site_id, $deep = 0; $at !== null && $deep < 32; $at = $this->around[$at] ?? null, $deep++) {
            if ($at === $row->site_id) {
                return true;
            }
        }

        return false;
    }
}
