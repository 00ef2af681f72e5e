<?php

declare(strict_types=1);

namespace App\Links;

use App\Models\ClientClass;
use App\Models\Lease;
use App\Models\OptionValue;
use App\Models\Pair;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeRange;
use App\Models\ScopeServer;
use App\Models\Server;
use App\Queries\InUse;
use App\Queries\OptionLayers;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Dns\Ttl;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\MacAddress;

/** A DHCP stand-in: scopes go over the control channel, are read back, and are proved by packets through the relay address. */
final readonly class StandinDhcpLink implements Link
{
    /** From the documentation block of RFC 7042 §2.1.2. */
    public const PROBE = '00:00:5e:00:53:fe';

    public function __construct(private Server $server, private ControlChannel $channel, private DhcpClient $dhcp)
    {
    }

    public function compare(bool $deep = false): array
    {
        $pairs = $this->pairs()->compare();
        $running = [];
        foreach ((array) ($this->channel->ask('scopes')['scopes'] ?? []) as $form) {
            if (is_array($form)) {
                $running[(string) ($form['id'] ?? '')] = self::whole($form);
            }
        }
        // A pair is there before its scopes come, and goes after they went.
        $differences = array_values(array_filter($pairs, static fn (Difference $d): bool => $d->state !== 'gone'));
        $placements = ScopeServer::query()->where('server_id', $this->server->id)->get()->keyBy('scope_id');
        foreach (self::placed($this->server) as $scope) {
            $form = self::form($scope, $this->server);
            $has = $running[$scope->id] ?? null;
            unset($running[$scope->id]);
            $differences[] = $this->difference($scope, $form, $has, $placements[$scope->id] ?? null);
        }
        foreach ($running as $id => $form) {
            $lines = self::lines($form);
            $differences[] = new Difference(
                'scope',
                (string) $id,
                "{$form['name']}, {$form['subnet']}",
                'gone',
                $lines,
                [],
                count($lines),
                0,
                'the plan does not place this scope here',
                drifted: true,
            );
        }

        return [...$differences, ...array_filter($pairs, static fn (Difference $d): bool => $d->state === 'gone')];
    }

    private function pairs(): StandinPairs
    {
        return new StandinPairs($this->server, $this->channel);
    }

    public function apply(string $kind, string $id): void
    {
        if ($kind === 'pair') {
            $this->pairs()->apply($id);

            return;
        }
        $scope = self::placed($this->server)->firstWhere('id', $id);
        $scope === null
            || $scope->stage === 'planned'
                ? $this->channel->ask('cut', ['id' => $id])
                : $this->put($scope);
    }

    /** The key that signs its updates is there before the scope; it is in no form that is read back. */
    private function put(Scope $scope): void
    {
        if ($scope->name_who !== null && $scope->nameKey !== null) {
            $this->channel->ask('key-put', ['name' => $scope->nameKey->name, 'secret' => $scope->nameKey->secret]);
        }
        $this->channel->ask('put', ['scope' => self::form($scope, $this->server)]);
    }

    /** Read back as a whole, then proved by packets: the options by an INFORM, the addresses by an offer that is taken and given back. */
    public function verify(string $kind, string $id): string
    {
        if ($kind === 'pair') {
            return $this->pairs()->verify($id);
        }
        $scope = self::placed($this->server)->firstWhere('id', $id);
        $running = $this->running($id);
        if ($scope === null || $scope->stage === 'planned') {
            return $running === null
                ? 'read back: the scope is gone from the server'
                : throw Unanswered::differs($this->server->name, "it still has the scope {$running['name']}");
        }
        $form = self::form($scope, $this->server);
        $left = $running === null
            ? ['the whole scope']
            : [...array_diff(self::lines($running), self::lines($form)), ...array_diff(self::lines($form), self::lines($running))];
        if ($left !== []) {
            throw Unanswered::differs(
                $this->server->name,
                "read back, $scope->name still differs: ".implode('; ', array_slice($left, 0, 6)),
            );
        }
        $net = $scope->prefix->prefix();
        $relay = $scope->prefix->gateway ?? $net->usable()->first;
        $inform = Packet::fromClient(
            MessageType::Inform,
            random_int(1, 0xFFFFFFFF),
            MacAddress::parse(self::PROBE),
            [],
            $relay,
            $net->usable()->last,
        );
        [$answer] = $this->dhcp->exchange($inform);
        if ($answer->type() !== MessageType::Ack) {
            throw Unanswered::refused(
                $this->server->name,
                'an INFORM for '.$scope->name.' got '.($answer->type()?->label() ?? 'no message type'),
            );
        }
        $classes = app(OptionLayers::class)->classesOf($inform);
        $meant = [OptionTable::MASK => $net->mask()->bytes] + self::payloads($scope, $this->server, $classes);
        foreach ($meant as $code => $payload) {
            if (($answer->options[$code] ?? null) !== $payload) {
                throw Unanswered::differs(
                    $this->server->name,
                    "option $code of $scope->name is meant to be "
                        .OptionTable::meaning($code, $payload)
                        .', it answers '
                        .(isset($answer->options[$code]) ? OptionTable::meaning($code, $answer->options[$code]) : 'nothing'),
                );
            }
        }

        return sprintf(
            'read back and equal; INFORM through %s answered, %d options right; %s',
            $relay,
            count($meant),
            $this->offer($scope, $relay),
        );
    }

    /** An address of the server's share is offered to a client of our own, taken and given back. */
    private function offer(Scope $scope, Address $relay): string
    {
        $own = $scope->ranges->filter(fn ($r): bool => $r->server_id === null || $r->server_id === $this->server->id);
        // A client of ours is in no class, so what is kept for one is not offered to it.
        $share = $own->filter(fn (ScopeRange $r): bool => $r->class_only !== true)->map(fn ($r): AddressRange => $r->range());
        if ($share->isEmpty()) {
            return $own->isEmpty() ? 'no range, so nothing is offered' : 'its ranges are kept for classes, so nothing is offered';
        }
        $holdsBack = $scope->pair === null ? null : $this->pairs()->holdsBack($scope->pair, $scope->id);
        if ($holdsBack !== null) {
            return "nobody new is given an address: $holdsBack";
        }
        $client = MacAddress::fromBytes("\x02\x00\x5e\x00".random_bytes(2));
        $common = [OptionTable::CLIENT_ID => "\1".$client->bytes];
        $unused = $this->unused($scope, $share);
        $wish = $unused === null ? [] : [OptionTable::REQUESTED_ADDRESS => $unused->bytes];
        $xid = random_int(1, 0xFFFFFFFF);
        try {
            // In a pair the other one may be the one to answer: who has asked in vain for some seconds is answered by both.
            [$offer] = $this->dhcp->exchange(
                Packet::fromClient(MessageType::Discover, $xid, $client, $wish + $common, $relay)
                    ->askingFor($scope->pair === null ? 0 : 10),
            );
        } catch (Unanswered $e) {
            $size = $share->sum(fn (AddressRange $r): int => $r->size()->toInt());
            $taken = InUse::activeLeases()->where('server_id', $this->server->id)->where('scope_id', $scope->id)->count();

            return $taken >= $size
                ? 'no offer: its share is leased to the last address'
                : throw Unanswered::differs(
                    $this->server->name,
                    "a client of ours got no offer from $scope->name, although $taken of $size addresses are leased",
                );
        }
        $time = $offer->options[OptionTable::LEASE_TIME] ?? '';
        if (
            ! $share->contains(fn (AddressRange $r): bool => $r->contains($offer->yourAddress))
                || $scope->exclusions->contains(fn ($x): bool => $x->range()->contains($offer->yourAddress))
        ) {
            throw Unanswered::differs($this->server->name, "it offered $offer->yourAddress, which is outside its share of $scope->name");
        }
        $seconds = strlen($time) === 4 ? (int) (unpack('N', $time) ?: [1 => 0])[1] : 0;
        $right = $scope->pair === null
            ? $seconds === $scope->lease_time
            : $seconds > 0 && $seconds <= max($scope->pair->lead, $scope->lease_time);
        if (! $right) {
            throw Unanswered::differs($this->server->name, "it offers a lease of another time than $scope->name has");
        }
        $server = $offer->options[OptionTable::SERVER_ID] ?? '';
        [$ack] = $this->dhcp->exchange(
            Packet::fromClient(
                MessageType::Request,
                $xid,
                $client,
                [OptionTable::REQUESTED_ADDRESS => $offer->yourAddress->bytes, OptionTable::SERVER_ID => $server] + $common,
                $relay,
            ),
        );
        if ($ack->type() !== MessageType::Ack || ! $ack->yourAddress->equals($offer->yourAddress)) {
            throw Unanswered::differs($this->server->name, "it offered $offer->yourAddress and did not give it");
        }
        $this->dhcp->tell(
            Packet::fromClient(MessageType::Release, $xid, $client, [OptionTable::SERVER_ID => $server] + $common, null, $ack->yourAddress),
        );

        return "$ack->yourAddress offered, taken and given back";
    }

    /**
     * An address of the share that nobody is known to use, from its end: a server that was rebuilt does not know whose the first ones are.
     *
     * @param  \Illuminate\Support\Collection<int, AddressRange>  $share
     */
    private function unused(Scope $scope, \Illuminate\Support\Collection $share): ?Address
    {
        $taken = Lease::query()->where('scope_id', $scope->id)->where('ends_at', '>', now())->pluck('address')
            ->merge($scope->reservations->map(fn (Reservation $r): Address => $r->address))
            ->mapWithKeys(fn (Address $a): array => [$a->bytes => true]);
        foreach ($share->reverse() as $range) {
            for ($at = $range->last, $tries = 0; $at !== null && $range->contains($at) && $tries < 256; $at = $at->plus(-1), $tries++) {
                if (! isset($taken[$at->bytes]) && ! $scope->exclusions->contains(fn ($x): bool => $x->range()->contains($at))) {
                    return $at;
                }
            }
        }

        return null;
    }

    /** @return array<string, mixed>|null the scope as the server runs it */
    public function running(string $id): ?array
    {
        foreach ((array) ($this->channel->ask('scopes')['scopes'] ?? []) as $form) {
            if (is_array($form) && ($form['id'] ?? null) === $id) {
                return self::whole($form);
            }
        }

        return null;
    }

    /**
     * What a server says of a scope, with all parts there.
     *
     * @param  array<mixed>  $form
     * @return array<string, mixed>
     */
    private static function whole(array $form): array
    {
        return [
            'id' => (string) ($form['id'] ?? ''), 'name' => (string) ($form['name'] ?? ''),
            'subnet' => (string) ($form['subnet'] ?? ''), 'ranges' => (array) ($form['ranges'] ?? []),
            'exclusions' => (array) ($form['exclusions'] ?? []),
            'lease_time' => (int) ($form['lease_time'] ?? 0), 'delay_ms' => (int) ($form['delay_ms'] ?? 0),
            'options' => (array) ($form['options'] ?? []),
            'reservations' => array_values(array_filter((array) ($form['reservations'] ?? []), is_array(...))),
            'classes' => array_values(array_filter((array) ($form['classes'] ?? []), is_array(...))),
            'kept' => array_filter((array) ($form['kept'] ?? []), is_array(...)),
        ] + (is_string($form['pair'] ?? null) ? ['pair' => $form['pair']] : [])
            + (is_array($form['names'] ?? null) ? ['names' => $form['names']] : []);
    }

    /** @return \Illuminate\Support\Collection<int, Scope> */
    public static function placed(Server $server): \Illuminate\Support\Collection
    {
        return ScopeServer::query()
            ->with(
                [
                    'scope.prefix',
                    'scope.placements',
                    'scope.ranges',
                    'scope.exclusions',
                    'scope.reservations.optionValues',
                    'scope.optionValues',
                    'scope.pair.first',
                    'scope.pair.second',
                    'scope.nameZone.placements.server',
                    'scope.nameZone.view',
                    'scope.nameKey',
                ],
            )
            ->where('server_id', $server->id)->get()->map(fn (ScopeServer $p): Scope => $p->scope);
    }

    /**
     * The scope as it goes over the channel. The same scope gives the same form, so that a digest tells. Parts that a scope need not have
     * stand in it only where it has them.
     *
     * @return array{id: string, name: string, subnet: string, ranges: list<string>, exclusions: list<string>, lease_time: int,
     *     delay_ms: int, options: array<int, string>, reservations: list<array{mac: string, client: string, address: string, name: string,
     *     options: array<int, ?string>}>, classes: list<array{id: string, name: string, any: bool, conditions: list<array{field: string,
     *     is: string, value: string}>, options: array<int, ?string>}>, kept: array<string, array{class: string, only: bool}>,
     *     pair?: string,
     *     names?: array<string, mixed>}
     */
    public static function form(Scope $scope, Server $server): array
    {
        $ranges = $scope->ranges->filter(fn ($r): bool => $r->server_id === null || $r->server_id === $server->id)->values();
        $kept = $ranges->filter(fn (ScopeRange $r): bool => $r->class_id !== null);
        $names = ScopeNaming::form($scope);
        $classes = app(OptionLayers::class)->classes()
            ->filter(fn (ClientClass $c): bool => $c->optionValues->isNotEmpty() || $kept->contains('class_id', $c->id));

        return [
            'id' => $scope->id, 'name' => $scope->name, 'subnet' => (string) $scope->prefix->prefix(),
            'ranges' => array_values($ranges->map(fn ($r): string => (string) $r->range())->all()),
            'exclusions' => array_values($scope->exclusions->map(fn ($e): string => (string) $e->range())->all()),
            'lease_time' => $scope->lease_time,
            'delay_ms' => (int) ($scope->placements->firstWhere('server_id', $server->id)->delay_ms ?? 0),
            'options' => array_map(bin2hex(...), self::payloads($scope, $server)),
            'reservations' => array_values($scope->reservations->map(self::reservation(...))->all()),
            'classes' => array_values($classes->map(self::classForm(...))->all()),
            'kept' => $kept->mapWithKeys(fn (ScopeRange $r): array => [
                (string) $r->range() => ['class' => (string) $r->class_id, 'only' => (bool) $r->class_only],
            ])->all(),
        ] + ($scope->pair_id === null ? [] : ['pair' => $scope->pair_id]) + ($names === null ? [] : ['names' => $names]);
    }

    /**
     * @return array{id: string, name: string, any: bool, conditions: list<array{field: string, is: string, value: string}>,
     *     options: array<int, ?string>}
     */
    private static function classForm(ClientClass $c): array
    {
        return [
            'id' => $c->id,
            'name' => $c->name,
            'any' => $c->any,
            'conditions' => $c->conditions,
            'options' => self::own($c->optionValues),
        ];
    }

    /** @return array{mac: string, client: string, address: string, name: string, options: array<int, ?string>} */
    private static function reservation(Reservation $r): array
    {
        return [
            'mac' => (string) $r->mac, 'client' => bin2hex((string) $r->client_id), 'address' => (string) $r->address, 'name' => $r->name,
            'options' => self::own($r->optionValues),
        ];
    }

    /**
     * @param  iterable<OptionValue>  $values
     * @return array<int, ?string> code → payload in hexadecimal; null for none, on purpose
     */
    private static function own(iterable $values): array
    {
        $own = [];
        foreach ($values as $value) {
            $payload = $value->payload();
            $own[$value->code] = $payload === null ? null : bin2hex($payload);
        }

        return $own;
    }

    public static function digest(Scope $scope, Server $server): string
    {
        return hash('sha256', json_encode(self::form($scope, $server), JSON_THROW_ON_ERROR));
    }

    /**
     * @param  list<ClientClass>  $classes
     * @return array<int, string> code → payload: what the server sends to clients of the scope
     */
    public static function payloads(Scope $scope, Server $server, array $classes = []): array
    {
        return app(OptionLayers::class)->of($scope, $server, $classes)->payloads();
    }

    /** @param  array<string, mixed>  $form
     * @return list<string> one line a fact, for a diff that people read
     */
    public static function lines(array $form): array
    {
        $lines = [
            "subnet {$form['subnet']}",
            'lease time '.((int) $form['lease_time'] > 0x7FFFFFFF ? 'without an end' : Ttl::of((int) $form['lease_time'])->spoken()),
        ];
        if ((int) ($form['delay_ms'] ?? 0) > 0) {
            $lines[] = "offers held back {$form['delay_ms']} ms";
        }
        if (is_string($form['pair'] ?? null) && $form['pair'] !== '') {
            $lines[] = 'leased by a pair, '.(Pair::query()->whereKey($form['pair'])->value('name') ?? 'which the plan does not know');
        }
        foreach ((array) $form['ranges'] as $range) {
            $lines[] = "range $range";
        }
        if (is_array($form['names'] ?? null)) {
            array_push($lines, ...ScopeNaming::lines($form['names']));
        }
        foreach ((array) $form['exclusions'] as $range) {
            $lines[] = "excluded $range";
        }
        foreach ((array) $form['options'] as $code => $hex) {
            $lines[] = "option $code "
                .OptionTable::definition((int) $code)->name
                .': '
                .OptionTable::meaning((int) $code, (string) hex2bin((string) $hex));
        }
        foreach ((array) $form['reservations'] as $one) {
            $client = ($one['mac'] ?? '') !== '' ? $one['mac'] : '0x'.($one['client'] ?? '');
            $lines[] = trim('reservation '.($one['address'] ?? '?')." for $client ".($one['name'] ?? ''));
            array_push($lines, ...self::ownLines('reservation '.($one['address'] ?? '?'), (array) ($one['options'] ?? [])));
        }
        foreach ((array) ($form['kept'] ?? []) as $range => $rule) {
            $lines[] = "range $range ".(($rule['only'] ?? true) ? 'only for' : 'not for').' class '.($rule['class'] ?? '?');
        }
        foreach ((array) ($form['classes'] ?? []) as $class) {
            $rows = (array) ($class['conditions'] ?? []);
            $lines[] = 'class '.($class['name'] ?? '?').': '.self::conditions($rows, (bool) ($class['any'] ?? false));
            array_push($lines, ...self::ownLines('class '.($class['name'] ?? '?'), (array) ($class['options'] ?? [])));
        }

        return $lines;
    }

    /**
     * @param  array<mixed>  $options  code → hexadecimal digits, or null
     * @return list<string>
     */
    private static function ownLines(string $whose, array $options): array
    {
        $lines = [];
        foreach ($options as $code => $hex) {
            $meaning = is_string($hex) ? OptionTable::meaning((int) $code, (string) hex2bin($hex)) : 'none, on purpose';
            $lines[] = "$whose, option $code ".OptionTable::definition((int) $code)->name.": $meaning";
        }

        return $lines;
    }

    /** @param  array<mixed>  $rows */
    private static function conditions(array $rows, bool $any): string
    {
        $words = array_map(
            static fn (mixed $r): string => implode(
                ' ',
                is_array($r) ? array_filter([$r['field'] ?? '', $r['is'] ?? '', $r['value'] ?? ''], is_string(...)) : ['?'],
            ),
            $rows,
        );

        return implode($any ? ' or ' : ' and ', $words);
    }

    /**
     * @param  array<string, mixed>  $form
     * @param  array<string, mixed>|null  $has
     */
    private function difference(Scope $scope, array $form, ?array $has, ?ScopeServer $placement): Difference
    {
        $title = $scope->line();
        if ($scope->stage === 'planned') {
            return new Difference(
                'scope',
                $scope->id,
                $title,
                $has === null ? 'waiting' : 'gone',
                $has === null ? [] : self::lines($has),
                [],
                0,
                0,
                'planned, so it is not on servers',
            );
        }
        $meant = self::lines($form);
        $runs = $has === null ? [] : self::lines($has);
        $added = array_values(array_diff($meant, $runs));
        $removed = array_values(array_diff($runs, $meant));
        $equal = $has !== null && $added === [] && $removed === [];
        $asShipped = $placement !== null && self::digest($scope, $this->server) === $placement->shipped_digest;
        // A shipment that was ended between the writing and the proof left the right scope there, and no proof of it.
        $proved = $asShipped && $placement->verified_at !== null;
        $state = $has === null ? 'new' : ($equal && $proved ? 'same' : 'differs');
        $message = match (true) {
            $has === null => $asShipped ? 'it was shipped here and is not there any more' : 'not on this server yet',
            $equal && ! $proved => 'it runs as meant, and nothing has proved it yet',
            default => '',
        };

        return new Difference(
            'scope',
            $scope->id,
            $title,
            $state,
            array_slice($removed, 0, Difference::LISTED),
            array_slice($added, 0, Difference::LISTED),
            count($removed),
            count($added),
            $message,
            drifted: $asShipped && ! $equal,
        );
    }
}
