<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Person;
use App\Models\Role;
use App\Models\Server;
use App\Models\Site;
use App\Models\Speaks;
use App\Models\Tenant;
use App\Models\TransferKey;

/** A server is held or let go, or reached elsewhere. */
final readonly class ChangeServer extends Act
{
    use Renames;

    public function __construct(
        #[Field(Kind::Id, 'Server', of: Server::class)]
        public string $server,
        #[Field(Kind::Line, 'Endpoint', most: 120)]
        public ?string $endpoint = null,
        #[Field(Kind::Line, 'Control', 'host:port, or the address of an agent as https://host/path', most: 120)]
        public ?string $control = null,
        #[Field(Kind::Secret, 'Token', most: 500)]
        public ?string $token = null,
        #[Field(Kind::Choice, 'Held', choices: ['0', '1'])]
        public ?string $held = null,
        #[Field(Kind::Line, 'Figures', 'Where they are read: an address, or "control"; blank for none', most: 255, example: 'control')]
        public ?string $metrics = null,
        #[Field(Kind::Line, 'Name', most: 120)]
        public ?string $name = null,
        #[Field(Kind::Id, 'Site', of: Site::class, dash: true)]
        public ?string $site = null,
        #[Field(Kind::Id, 'Owner', of: Tenant::class, dash: true)]
        public ?string $tenant = null,
        #[Field(Kind::Choice, 'Reached by', choices: ['control', 'standard', 'here'])]
        public ?string $speaks = null,
        #[Field(Kind::Id, 'Key', of: TransferKey::class, dash: true)]
        public ?string $key = null,
        #[Field(Kind::Line, 'Catalog', 'The zone below which each view has the list of its zones; blank for none', most: 200,
            example: 'catalog.kittiwake.example')]
        public ?string $catalog = null,
    ) {
    }

    public function title(): string
    {
        return 'Change the server '.(Server::query()->find($this->server)->name ?? '');
    }

    public static function may(Person $person): bool
    {
        return ($person->does(Role::Steward) || $person->does(Role::Operator)) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('ship.server', $this->server);
    }

    /** It holds a secret, so it is in no draft that others read. */
    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        $server = Server::query()->find($this->server) ?? $ledger->refuse('gone', 'The server is not there any more');
        $written = $this->endpoint ?? $this->control ?? $this->token ?? $this->metrics ?? $this->name ?? $this->site ?? $this->tenant
            ?? $this->speaks ?? $this->key ?? $this->catalog;
        if ($written !== null && $ledger->person?->does(Role::Steward) === false) {
            $ledger->refuse('not-allowed', 'Only a steward changes what is written down of a server');
        }
        MakeServer::endpoints($ledger, $server->kind, $this->endpoint, $this->control);
        $server->endpoint = $this->endpoint ?? $server->endpoint;
        $server->control = $this->control ?? $server->control;
        $server->token = $this->token ?? $server->token;
        $server->held = $this->held === null ? $server->held : $this->held === '1';
        if ($this->metrics !== null) {
            $server->metrics = self::figures($ledger, $this->metrics);
        }
        self::rename($ledger, $server, $this->name);
        $server->site_id = self::chosen($this->site, $server->site_id);
        $server->tenant_id = self::chosen($this->tenant, $server->tenant_id);
        $server->key_id = self::chosen($this->key, $server->key_id);
        $server->speaks = Speaks::tryFrom((string) $this->speaks) ?? $server->speaks;
        MakeServer::standardNeeds($ledger, $server->kind, $server->speaks, $server->key_id);
        MakeServer::hereNeeds($ledger, $server->kind, $server->speaks, $server->id);
        if ($this->catalog !== null || $server->isDirty('speaks')) {
            $server->catalog = MakeServer::catalogName($ledger, $server->speaks, $this->catalog ?? (string) $server->catalog);
        }
        $server->save();
    }

    /** Only a steward writes where anything is read, so that nobody else points it at what stands inside. */
    public static function figures(Ledger $ledger, string $text): ?string
    {
        $text = trim($text);
        if ($text === '' || $text === Server::AT_CONTROL) {
            return $text === '' ? null : $text;
        }
        $parts = parse_url($text);
        if (
            ! is_array($parts) || ! in_array($parts['scheme'] ?? '', ['http', 'https'], true) || ($parts['host'] ?? '') === ''
            || isset($parts['user']) || isset($parts['pass']) || preg_match('/[\x00-\x20\x7f]/', $text) === 1
        ) {
            $ledger->refuse('bad-figures', 'An address as https://host/metrics is meant, or "control"', 'No sign-in stands in it.',
                field: 'metrics');
        }

        return $text;
    }
}
