<?php

declare(strict_types=1);

namespace HarborPost\Standins\Dns;

use HarborPost\Core\Dns\Name;
use HarborPost\Core\Dns\Rdata\Soa;
use HarborPost\Core\Dns\Record;
use HarborPost\Core\Dns\RecordType;
use HarborPost\Core\Dns\Wire\Asker;
use HarborPost\Core\Dns\Wire\Message;
use HarborPost\Core\Dns\Wire\Opcode;
use HarborPost\Core\Dns\Wire\Question;
use HarborPost\Core\Dns\Wire\Rcode;
use HarborPost\Core\Dns\Wire\TsigAlgorithm;
use HarborPost\Core\Dns\Wire\TsigKey;
use HarborPost\Core\Dns\Zone\Transfer;
use HarborPost\Core\Dns\Zone\UpdateRequest;
use HarborPost\Core\Net\Address;
use HarborPost\Standins\Journal;
use React\EventLoop\LoopInterface;

/**
 * What a name server serves, and how it came to it: zones from the control channel, zones taken from a primary, updates by clients,
 * names that lapse. Kept in a journal over a restart.
 */
final class ZoneBook
{
    /** The key by which whoever has the control token may read every zone. */
    public const OWN_KEY = 'control.';

    public readonly Authority $authority;

    private readonly Registrar $registrar;

    /** @var array<string, ServedZone> zones that are being loaded in parts, by view and name */
    private array $loading = [];

    /** @var array<string, Secondary> by view and name */
    private array $secondaries = [];

    /** @var array<string, array<mixed>> what a secondary was told of copies of its zone, by view and name */
    private array $told = [];

    /** @var array<string, TsigKey> by name */
    private array $keys = [];

    /** @var array<string, mixed> as it was told */
    private array $resolving = [];

    private bool $replaying = true;

    /** @param  \Closure(): int  $now */
    public function __construct(
        private readonly LoopInterface $loop,
        private readonly Journal $journal,
        private readonly Address $source,
        private readonly string $token,
        private readonly \Closure $now,
        private readonly Recursor $recursor,
    ) {
        $this->authority = new Authority;
        $this->registrar = new Registrar($journal, $this->carry(...));
        foreach ($this->journal->entries() as $entry) {
            $this->replay($entry);
        }
        $this->replaying = false;
        $this->compact();
    }

    /** @return array<string, \Closure(array<mixed>): array<mixed>> */
    public function operations(): array
    {
        $kept = fn (string $op, \Closure $do): \Closure => function (array $message) use ($op, $do): array {
            unset($message['token'], $message['op']);
            $answer = $do($message);
            isset($answer['error']) ?: $this->journal->append([$op => $message]);

            return $answer;
        };

        return [
            'views' => $kept('views', fn (array $m): array => $this->views($m)),
            'apply' => $kept('apply', fn (array $m): array => $this->carry($m)),
            'drop' => $kept('drop', fn (array $m): array => $this->drop($m)),
            'keys' => $kept('keys', fn (array $m): array => $this->setKeys($m)),
            'settle' => $kept('settle', fn (array $m): array => $this->settle($m)),
            'secondary' => $kept('secondary', fn (array $m): array => $this->secondary($m)),
            'resolving' => $kept('resolving', fn (array $m): array => $this->resolve($m)),
            'zones' => fn (array $m): array => $this->listing(),
            'renewals' => fn (array $m): array => ['renewals' => $this->zoneOf($m)->renewals ?? []],
            'resolved' => fn (array $m): array => ['resolving' => $this->resolving],
            'trail' => fn (array $m): array => ['trail' => $this->recursor->trail()],
            'ask' => fn (array $m): array => $this->askNow($m),
        ];
    }

    /** @return list<TsigKey> */
    public function keys(): array
    {
        return [TsigKey::of(Name::parse(self::OWN_KEY), base64_encode(hash('sha256', $this->token, true))), ...array_values($this->keys)];
    }

    public function isSecondary(string $view, Name $origin): bool
    {
        return isset($this->secondaries[self::key($view, $origin)]);
    }

    /** A primary says that its serial rose (RFC 1996): asked at once. */
    public function notified(string $view, Name $origin): void
    {
        $secondary = $this->secondaries[self::key($view, $origin)] ?? null;
        $secondary?->refresh($this->authority->zone($view, $origin));
    }

    /** Once a second: secondaries that are due ask, zones expire, names lapse. */
    public function tick(): void
    {
        $now = ($this->now)();
        foreach ($this->secondaries as $secondary) {
            $zone = $this->authority->zone($secondary->view, $secondary->origin);
            if ($zone !== null) {
                $zone->expired = $secondary->clock($zone)?->isExpired($now) === true;
            }
            $secondary->isDue($zone, $now) ? $secondary->refresh($zone) : null;
        }
        foreach ($this->authority->all() as $view => $zone) {
            $this->registrar->lapse($view, $zone, $now);
        }
    }

    /** A client's update: judged, written, handed on. */
    public function update(string $view, ServedZone $zone, UpdateRequest $request): Rcode
    {
        return $this->registrar->update($view, $zone, $request, ($this->now)());
    }

    /**
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function views(array $message): array
    {
        $views = [];
        foreach (is_array($message['views'] ?? null) ? $message['views'] : [] as $view) {
            if (is_array($view) && is_string($view['name'] ?? null) && is_array($view['clients'] ?? null)) {
                $views[] = ['name' => $view['name'], 'clients' => array_values(array_filter($view['clients'], is_string(...)))];
            }
        }
        $this->authority->setViews($views);

        return ['views' => count($views)];
    }

    /**
     * {keys: [{name, secret in base 64, algorithm}]}: all that this server knows.
     *
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function setKeys(array $message): array
    {
        $this->keys = [];
        foreach (is_array($message['keys'] ?? null) ? $message['keys'] : [] as $key) {
            if (is_array($key) && is_string($key['name'] ?? null) && is_string($key['secret'] ?? null)) {
                $this->keys[strtolower($key['name'])] = TsigKey::of(
                    Name::parse($key['name']),
                    $key['secret'],
                    TsigAlgorithm::tryFrom(is_string($key['algorithm'] ?? null) ? $key['algorithm'] : '') ?? TsigAlgorithm::Sha256,
                );
            }
        }

        return ['keys' => count($this->keys)];
    }

    /**
     * {recursion, forwarders: [endpoint], fallback, roots: [address], reach: {address: endpoint}, zones: [{zone, kind: forwarded or stub,
     * servers}], validating, anchors: ["zone ttl DS data"], negative: [zone]}
     *
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function resolve(array $message): array
    {
        $strings = static fn (mixed $list): array => array_filter(is_array($list) ? $list : [], is_string(...));
        $this->resolving = $message;
        $this->recursor->on = ($message['recursion'] ?? false) === true;
        $this->recursor->forwarders = array_values($strings($message['forwarders'] ?? []));
        $this->recursor->fallback = ($message['fallback'] ?? false) === true;
        $this->recursor->roots = array_values($strings($message['roots'] ?? []));
        $this->recursor->reach = $strings($message['reach'] ?? []);
        $this->recursor->zones = [];
        foreach (is_array($message['zones'] ?? null) ? $message['zones'] : [] as $zone) {
            $name = is_array($zone) && is_string($zone['zone'] ?? null) ? Name::tryParse($zone['zone']) : null;
            $name === null ?: $this->recursor->zones[] = [
                'zone' => $name,
                'stub' => ($zone['kind'] ?? '') === 'stub',
                'servers' => array_values($strings($zone['servers'] ?? [])),
            ];
        }
        $records = array_map(Record::ofLine(...), array_values($strings($message['anchors'] ?? [])));
        $this->recursor->anchors = ($message['validating'] ?? false) === true ? $records : [];
        $this->recursor->negative = array_map(Name::parse(...), array_values($strings($message['negative'] ?? [])));
        $this->recursor->flush();

        return ['recursion' => $this->recursor->on];
    }

    /**
     * A zone that is taken from a primary: {view, zone, primary: endpoint, key: name or null, client: address in the view}.
     *
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function secondary(array $message): array
    {
        $view = is_string($message['view'] ?? null) ? $message['view'] : '';
        $origin = Name::parse(is_string($message['zone'] ?? null) ? $message['zone'] : '');
        $key = is_string($message['key'] ?? null) ? $message['key'] : '';
        if ($key !== '' && ! isset($this->keys[$key])) {
            return ['error' => "the key $key is not known here"];
        }
        $secondary = new Secondary(
            $this->loop, $view, $origin, is_string($message['primary'] ?? null) ? $message['primary'] : '', $this->keys[$key] ?? null,
            $this->source,
            Address::tryParse(is_string($message['client'] ?? null) ? $message['client'] : ''),
            fn (Transfer $t) => $this->taken($view, $origin, $t),
            $this->now,
        );
        $zone = $this->authority->zone($view, $origin);
        $this->secondaries[self::key($view, $origin)] = $secondary;
        $this->told[self::key($view, $origin)] = array_intersect_key(
            $message,
            ['transfer' => 1, 'notify' => 1, 'update' => 1, 'lapse' => 1],
        );
        if ($zone !== null) {
            $secondary->refreshed = is_int($message['refreshed'] ?? null) ? $message['refreshed'] : ($this->now)();
            $zone->settle($message);
        }
        $this->replaying ?: $secondary->refresh($zone);

        return ['secondary' => true];
    }

    private function taken(string $view, Name $origin, Transfer $transfer): void
    {
        $messages = [];
        $name = (string) $origin->lower();
        if ($transfer->kind() === Transfer::WHOLE) {
            $messages[] = [
                'view' => $view, 'zone' => $name, 'from' => null, 'first' => true,
                'add' => array_map(ServedZone::line(...), $transfer->records()),
            ] + ($this->told[self::key($view, $origin)] ?? []);
        }
        foreach ($transfer->steps() as $step) {
            $messages[] = [
                'view' => $view, 'zone' => $name, 'from' => $step['from']->data instanceof Soa ? $step['from']->data->serial->value : 0,
                'remove' => array_map(ServedZone::line(...), [...$step['removed'], $step['from']]),
                'add' => array_map(ServedZone::line(...), [...$step['added'], $step['to']]),
            ];
        }
        foreach ($messages as $message) {
            $answer = $this->carry($message);
            if (isset($answer['error'])) {
                throw new \UnexpectedValueException('the steps do not fit the zone that is here');
            }
            $this->journal->append(['apply' => $message]);
        }
    }

    /**
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function settle(array $message): array
    {
        $zone = $this->zoneOf($message);
        if ($zone === null) {
            return ['error' => 'the zone is not here'];
        }
        $zone->settle($message);

        return ['settled' => true];
    }

    /**
     * A secondary is told to ask its primary now.
     *
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function askNow(array $message): array
    {
        $this->notified(
            is_string($message['view'] ?? null) ? $message['view'] : '',
            Name::parse(is_string($message['zone'] ?? null) ? $message['zone'] : ''),
        );

        return ['asked' => true];
    }

    /** @return array<mixed> */
    private function listing(): array
    {
        $zones = [];
        $now = ($this->now)();
        foreach ($this->authority->all() as $view => $zone) {
            $zones[self::key($view, $zone->origin)] = [
                'view' => $view, 'zone' => (string) $zone->origin->lower(), 'serial' => $zone->serial(), 'part' => 'primary',
                'settings' => array_diff_key($zone->settings(), ['renewals' => 1]),
            ];
        }
        foreach ($this->secondaries as $key => $secondary) {
            $zone = $this->authority->zone($secondary->view, $secondary->origin);
            $clock = $secondary->clock($zone);
            $zones[$key] = ($zones[$key] ?? ['view' => $secondary->view, 'zone' => (string) $secondary->origin->lower(), 'serial' => null]);
            $zones[$key] = [
                'part' => 'secondary', 'primary' => $secondary->primary, 'key' => (string) $secondary->key?->name,
                'refreshed' => $clock?->refreshed, 'next' => $clock?->nextRefresh, 'expires' => $clock?->expires,
                'expired' => $zone?->expired === true, 'trouble' => $secondary->trouble, 'transfer' => $secondary->lastTransfer,
                'now' => $now,
            ] + $zones[$key];
        }

        return ['zones' => array_values($zones)];
    }

    /**
     * {view, zone, from: serial or null for a whole zone, remove: [line], add: [line], more: bool, and what ServedZone::settle() takes}.
     * Parts of a whole zone come with more=true and count only when the last one is there.
     *
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function carry(array $message): array
    {
        $view = is_string($message['view'] ?? null) ? $message['view'] : '';
        $origin = Name::parse(is_string($message['zone'] ?? null) ? $message['zone'] : '');
        $key = self::key($view, $origin);
        $running = $this->authority->zone($view, $origin);
        $whole = ($message['from'] ?? null) === null;
        if (! $whole && $running?->serial() !== $message['from']) {
            return ['error' => 'serial', 'serial' => $running?->serial()];
        }
        if ($whole && ($message['first'] ?? true) !== true && ! isset($this->loading[$key])) {
            return ['error' => 'a part of a zone whose first part is not here'];
        }
        $zone = $whole ? ($this->loading[$key] ?? new ServedZone($origin)) : $running;
        if ($whole && ($message['first'] ?? false) === true || $zone === null) {
            $zone = new ServedZone($origin);
            $running === null ?: $zone->inheritFrom($running);
        }
        $from = $zone->soa();
        $was = $running?->serial();
        $removed = $this->each($message['remove'] ?? null, $zone->remove(...));
        $added = $this->each($message['add'] ?? null, $zone->add(...));
        $zone->settle($message);
        if (($message['more'] ?? false) === true) {
            $this->loading[$key] = $zone;

            return ['taken' => true];
        }
        unset($this->loading[$key]);
        $whole ?: $zone->keepStep($from, $removed, $added);
        $this->authority->put($view, $zone);
        $this->replaying || $was === $zone->serial() ?: $this->tell($view, $zone);

        return ['serial' => $zone->serial()];
    }

    /**
     * @param  \Closure(Record): void  $do
     * @return list<Record> without the SOA
     */
    private function each(mixed $lines, \Closure $do): array
    {
        $records = [];
        foreach (is_array($lines) ? $lines : [] as $line) {
            $record = Record::ofLine(is_string($line) ? $line : '');
            $do($record);
            $record->data instanceof Soa ?: $records[] = $record;
        }

        return $records;
    }

    /** NOTIFY to each secondary (RFC 1996), over TCP so that loss is seen; whoever misses it asks when its refresh is due. */
    private function tell(string $view, ServedZone $zone): void
    {
        $soa = $zone->soa();
        foreach ($soa === null ? [] : $zone->notify as $entry) {
            [$endpoint, $client] = explode(' ', $entry, 2) + ['', ''];
            $question = Asking::question(
                $zone->origin,
                RecordType::of(RecordType::SOA),
                new Asker(Address::tryParse($client), $this->source),
            );
            $notify = new Message(
                $question->id,
                opcode: Opcode::Notify,
                authoritative: true,
                questions: [new Question($zone->origin, RecordType::of(RecordType::SOA))],
                answers: $soa === null ? [] : [$soa],
                edns: $question->edns,
            );
            Upstream::ask($this->loop, $endpoint, $notify->wire(), static fn (): bool => false, static fn (): null => null);
        }
    }

    /**
     * @param  array<mixed>  $message
     * @return array<mixed>
     */
    private function drop(array $message): array
    {
        $view = is_string($message['view'] ?? null) ? $message['view'] : '';
        $origin = Name::parse(is_string($message['zone'] ?? null) ? $message['zone'] : '');
        $this->authority->drop($view, $origin);
        unset($this->secondaries[self::key($view, $origin)]);

        return ['dropped' => true];
    }

    /** @param  array<mixed>  $message */
    private function zoneOf(array $message): ?ServedZone
    {
        return $this->authority->zone(
            is_string($message['view'] ?? null) ? $message['view'] : '',
            Name::parse(is_string($message['zone'] ?? null) ? $message['zone'] : ''),
        );
    }

    private static function key(string $view, Name $origin): string
    {
        return $view.' '.$origin->lower();
    }

    /** @param  array<mixed>  $entry */
    private function replay(array $entry): void
    {
        foreach ($entry as $what => $message) {
            match (is_array($message) ? $what : '') {
                'apply' => $this->carry($message), 'drop' => $this->drop($message), 'keys' => $this->setKeys($message),
                'settle' => $this->settle($message),
                'secondary' => $this->secondary($message), 'resolving' => $this->resolve($message),
                'views' => $this->views(isset($message['views']) ? $message : ['views' => $message]),
                default => null,
            };
        }
    }

    private function compact(): void
    {
        $this->journal->rewrite((function (): \Generator {
            yield ['views' => ['views' => $this->authority->views()]];
            yield [
                'keys' => [
                    'keys' => array_map(
                        static fn (TsigKey $k): array => [
                            'name' => (string) $k->name, 'secret' => base64_encode($k->secret), 'algorithm' => $k->algorithm->value,
                        ],
                        array_values($this->keys),
                    ),
                ],
            ];
            $this->resolving === [] ?: yield ['resolving' => $this->resolving];
            foreach ($this->authority->all() as $view => $zone) {
                $lines = array_map(
                    ServedZone::line(...),
                    [...($zone->soa() === null ? [] : [$zone->soa()]), ...iterator_to_array($zone->records(), false)],
                );
                yield [
                    'apply' => [
                        'view' => $view, 'zone' => (string) $zone->origin, 'from' => null, 'first' => true, 'add' => $lines,
                    ] + $zone->settings(),
                ];
            }
            foreach ($this->secondaries as $secondary) {
                yield ['secondary' => $secondary->settings() + ($this->told[self::key($secondary->view, $secondary->origin)] ?? [])];
            }
        })());
    }
}
