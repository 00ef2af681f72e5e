<?php

declare(strict_types=1);

namespace App\Acts\Directory;

use App\Acts\Engine\Act;
use App\Acts\Engine\Field;
use App\Acts\Engine\Kind;
use App\Acts\Engine\Ledger;
use App\Models\Part;
use App\Models\Person;
use App\Models\Role;
use App\Models\Server;
use App\Models\ServerKind;
use App\Models\Site;
use App\Models\Speaks;
use App\Models\TransferKey;
use App\Models\ZoneServer;
use HarborPost\Core\Dns\Name;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\NotUnderstood;

/** A server is added: its address in the plan, and the endpoints where it is reached. */
final readonly class MakeServer extends Act
{
    public function __construct(
        #[Field(Kind::Line, 'Name', most: 120)]
        public string $name,
        #[Field(Kind::Choice, 'Kind', choices: ['dns', 'resolver', 'dhcp', 'network', 'roots'])]
        public string $kind,
        #[Field(Kind::Line, 'Endpoint', most: 120)]
        public string $endpoint,
        #[Field(Kind::NewId, 'Id')]
        public string $id = '',
        #[Field(Kind::Line, 'Control', 'host:port, or the address of an agent as https://host/path', most: 120)]
        public string $control = '',
        #[Field(Kind::Secret, 'Token', most: 500)]
        public string $token = '',
        #[Field(Kind::Line, 'Address', most: 60)]
        public string $address = '',
        #[Field(Kind::Id, 'Site', of: Site::class)]
        public string $site = '',
        #[Field(Kind::Line, 'Figures', 'Where they are read: an address, or "control"; blank for none', most: 255, example: 'control')]
        public string $metrics = '',
        #[Field(Kind::Choice, 'Reached by', choices: ['control', 'standard', 'here'])]
        public string $speaks = 'control',
        #[Field(Kind::Id, 'Key', 'Signs what is asked by the standards', of: TransferKey::class)]
        public string $key = '',
        #[Field(Kind::Line, 'Catalog', 'The zone below which each view has the list of its zones; blank for none', most: 200,
            example: 'catalog.kittiwake.example')]
        public string $catalog = '',
    ) {
    }

    public function title(): string
    {
        return "Make the server $this->name";
    }

    public static function may(Person $person): bool
    {
        return $person->does(Role::Steward) && ! $person->isBound();
    }

    public function landing(): string
    {
        return at('ship.server', $this->id);
    }

    /** It holds a secret, so it is in no draft that others read. */
    public static function governed(): bool
    {
        return false;
    }

    public function apply(Ledger $ledger): void
    {
        if (trim($this->name) === '') {
            $ledger->refuse('no-name', 'A name is missing', field: 'name');
        }
        $twin = Server::query()->where('name', trim($this->name))->first();
        if ($twin !== null) {
            $ledger->refuse('name-taken', "\"{$twin->name}\" exists already", field: 'name');
        }
        $kind = ServerKind::tryFrom($this->kind);
        if ($kind === null) {
            $ledger->refuse('bad-kind', 'A server is dns, resolver, roots, dhcp or network', field: 'kind');
        }
        self::endpoints($ledger, $kind, $this->endpoint, $this->control);
        $speaks = Speaks::tryFrom($this->speaks) ?? Speaks::Control;
        self::standardNeeds($ledger, $kind, $speaks, $this->key);
        self::hereNeeds($ledger, $kind, $speaks, $this->id);
        try {
            $address = $this->address === '' ? null : Address::parse(trim($this->address));
        } catch (NotUnderstood $e) {
            $ledger->refuse('bad-address', $e->getMessage(), field: 'address');
        }
        (
            new Server([
                'id' => $this->id, 'name' => trim($this->name), 'kind' => $kind, 'endpoint' => $this->endpoint,
                'control' => $this->control ?: null, 'token' => $this->token ?: null, 'address' => $address,
                'site_id' => $this->site ?: null, 'speaks' => $speaks, 'key_id' => $this->key ?: null,
                'metrics' => ChangeServer::figures($ledger, $this->metrics),
                'catalog' => self::catalogName($ledger, $speaks, $this->catalog),
            ])
        )->save();
    }

    /** Harbor Post hands zones out at one place. */
    public static function hereNeeds(Ledger $ledger, ServerKind $kind, Speaks $speaks, string $id): void
    {
        if ($speaks !== Speaks::Here) {
            return;
        }
        if ($kind !== ServerKind::Dns) {
            $ledger->refuse('standard-is-of-names', 'Harbor Post itself hands out zones and nothing else',
                'Leases, switches and resolving are of servers.', 'RFC 5936', 'speaks');
        }
        $other = Server::query()->where('speaks', Speaks::Here)->whereKeyNot($id)->first();
        if ($other !== null) {
            $ledger->refuse('here-once', "Harbor Post hands its zones out as $other->name already", link: at('ship.server', $other->id),
                field: 'speaks');
        }
        $copied = ZoneServer::query()->with('zone')->where('server_id', $id)->where('part', Part::Secondary)->first();
        if ($copied !== null) {
            $ledger->refuse('here-copies-nothing', "It is a secondary of {$copied->zone->title()}", 'What hands zones out copies none.',
                link: at('name.zone.service', $copied->zone_id), field: 'speaks');
        }
    }

    public static function catalogName(Ledger $ledger, Speaks $speaks, string $text): ?string
    {
        $text = rtrim(strtolower(trim($text)), '.');
        if ($text === '') {
            return null;
        }
        if ($speaks !== Speaks::Here) {
            $ledger->refuse('catalog-of-here', 'A catalog lists what Harbor Post itself hands out', 'Servers that are brought to the plan '
                .'have none.', 'RFC 9432 §4', 'catalog');
        }
        // A view's label and the labels of its zones come in front of it.
        $name = Name::tryParse("$text.");
        if ($name === null || $name->isRoot() || strlen($name->wire) > 150) {
            $ledger->refuse('bad-name', "\"$text\" is no name for a catalog", 'As catalog.kittiwake.example, of at most 150 octets.',
                'RFC 9432 §4', 'catalog');
        }

        return "$text.";
    }

    /** Where its packets and its management side are reached: what is not given stays. */
    public static function endpoints(Ledger $ledger, ServerKind $kind, ?string $endpoint, ?string $control): void
    {
        $plain = '/\A(\[[0-9a-f:]+\]|[A-Za-z0-9.-]+):\d{1,5}\z/';
        if ($endpoint !== null && preg_match($plain, $endpoint) !== 1) {
            $ledger->refuse('bad-endpoint', 'An endpoint is written as host:port', field: 'endpoint');
        }
        if (($control ?? '') === '' || preg_match($plain, (string) $control) === 1) {
            return;
        }
        $parts = parse_url((string) $control);
        $host = is_array($parts) ? trim($parts['host'] ?? '', '[]') : '';
        $here = in_array($host, ['127.0.0.1', '::1', 'localhost'], true);
        if (
            $host === '' || ! is_array($parts) || isset($parts['user']) || isset($parts['query']) || isset($parts['fragment'])
            || ! in_array($parts['scheme'] ?? '', $here ? ['http', 'https'] : ['https'], true)
            || preg_match('/[\x00-\x20\x7f]/', (string) $control) === 1
        ) {
            $ledger->refuse('bad-endpoint', 'An endpoint is written as host:port, that of an agent as https://host/path',
                'Without TLS an agent is reached on this machine alone. No sign-in stands in it.', field: 'control');
        }
        if ($kind !== ServerKind::Dhcp) {
            $ledger->refuse('agent-is-of-leases', 'Agents stand in front of servers that lease addresses',
                'Name servers are reached by the standards.', null, 'control');
        }
    }

    /** By the standards alone, names are read and changed, and only by who can prove who it is. */
    public static function standardNeeds(Ledger $ledger, ServerKind $kind, Speaks $speaks, ?string $key): void
    {
        if ($speaks !== Speaks::Standard) {
            return;
        }
        if ($kind !== ServerKind::Dns) {
            $ledger->refuse('standard-is-of-names', 'By the standards only servers that answer zones are reached',
                'Leases, switches and resolving have no standard by which they are written.', 'RFC 2136', 'speaks');
        }
        if (($key ?? '') === '') {
            $ledger->refuse('standard-needs-a-key', 'A server that is reached by the standards needs a key', 'Updates without a '
                .'signature are anybody\'s. Make one under Keys, and give it to the server too.', 'RFC 3007', 'key');
        }
    }
}
