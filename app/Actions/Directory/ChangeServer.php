<?php

declare(strict_types=1);

namespace App\Actions\Directory;

use App\Actions\Action;
use App\Actions\Ledger;
use App\Models\Person;
use App\Models\Role;
use App\Models\Server;

/** A server is held or let go, or reached elsewhere. */
final readonly class ChangeServer extends Action
{
    public function __construct(public string $server, public ?string $endpoint = null, public ?string $control = null, public ?string $token = null, public ?string $held = null)
    {
    }

    public function title(): string
    {
        return 'Change the server '.(Server::query()->find($this->server)->name ?? '');
    }

    public function may(Person $person): bool
    {
        return ($person->does(Role::Steward) || $person->does(Role::Operator)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return "/ship/server/$this->server";
    }

    public function apply(Ledger $ledger): void
    {
        $server = Server::query()->find($this->server) ?? $ledger->refuse('gone', 'The server is not there any more');
        if (($this->endpoint ?? $this->control ?? $this->token) !== null && $ledger->person?->does(Role::Steward) === false) {
            $ledger->refuse('not-allowed', 'Only a steward changes where a server is reached');
        }
        $server->endpoint = $this->endpoint ?? $server->endpoint;
        $server->control = $this->control ?? $server->control;
        $server->token = $this->token ?? $server->token;
        $server->held = $this->held === null ? $server->held : $this->held === '1';
        $server->save();
    }
}
