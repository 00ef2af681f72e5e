<?php

declare(strict_types=1);

namespace App\Bench;

use App\Acts\Directory\MakeServer;
use App\Acts\Directory\MakeSpace;
use App\Acts\Directory\MakeView;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Space;
use App\Models\View;

/** Where a measurement stands when nothing was loaded before it. */
final class Ground
{
    public static function space(): Space
    {
        $first = Space::query()->orderBy('id')->first();
        if ($first === null) {
            self::did(MakeSpace::fromInput(['name' => 'bench']));
            $first = Space::query()->firstOrFail();
        }

        return $first;
    }

    public static function view(): View
    {
        $first = View::query()->orderBy('id')->first();
        if ($first === null) {
            self::did(MakeView::fromInput(['name' => 'bench', 'clients' => ['10.0.0.0/8']]));
            $first = View::query()->firstOrFail();
        }

        return $first;
    }

    /** A name server that is never asked. */
    public static function server(): string
    {
        $first = Server::query()->where('kind', ServerKind::Dns)->orderBy('id')->value('id');
        if (! is_string($first)) {
            $make = MakeServer::fromInput(['name' => 'bench', 'kind' => 'dns', 'endpoint' => '127.0.0.1:9', 'address' => '10.0.0.53']);
            self::did($make);
            $first = $make->id;
        }

        return $first;
    }

    /** Commits and insists. */
    public static function did(Act $act): void
    {
        $outcome = app(Acts::class)->commit(null, [$act]);
        if ($outcome->blocked()) {
            throw new \RuntimeException($act->title().': '.($outcome->block()->message ?? $outcome->trouble));
        }
    }
}
