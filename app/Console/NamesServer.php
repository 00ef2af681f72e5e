<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Server;
use App\Models\ServerKind;

/** A command that is told a server by its name, or by address and port. */
trait NamesServer
{
    /** @return array{?Server, string}|null the server, if it is known, and its endpoint; null when neither fits, which was said */
    private function serverNamed(string $asked): ?array
    {
        $server = Server::answering(ServerKind::asked())->where('name', $asked)->first();
        $endpoint = $server->endpoint
            ?? (preg_match('/\A(?:\d{1,3}(?:\.\d{1,3}){3}|\[[0-9a-f:.]+\]):\d{1,5}\z/i', $asked) === 1 ? $asked : null);
        if ($endpoint === null) {
            $known = Server::answering(ServerKind::asked())->orderBy('name')->pluck('name')->implode(', ');
            $this->unusable("--server=$asked: expected address:port or one of: ".($known === '' ? 'none is known' : $known));

            return null;
        }

        return [$server, $endpoint];
    }
}
