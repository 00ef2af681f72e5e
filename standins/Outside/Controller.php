<?php

declare(strict_types=1);

namespace HarborPost\Standins\Outside;

use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;
use HarborPost\Standins\Control;
use HarborPost\Standins\Journal;
use HarborPost\Standins\Mode;
use React\EventLoop\LoopInterface;
use React\Socket\ConnectionInterface;
use React\Socket\TcpServer;

/**
 * A simulated system outside that holds pools and parts of pools, by HTTP and JSON as docs/controller.md says. It has rules of its own: a
 * part lies in a pool and may be as large as it. Told to lie, it swallows gateways: it answers well and keeps the old one.
 */
final class Controller
{
    private const PAGE = 200;

    private const MOST = 1 << 20;

    /**
     * @var array<string, array{id: string, prefix: string, pool: bool, name: string, gateway: string, resolvers: list<string>,
     *     leases: list<string>}>
     */
    private array $objects = [];

    private readonly Control $control;

    private readonly Journal $journal;

    public function __construct(private readonly LoopInterface $loop, int $port, int $control, private readonly string $token,
        string $directory)
    {
        $this->journal = new Journal("$directory/pools.jsonl");
        foreach ($this->journal->entries() as $entry) {
            $this->keep($entry);
        }
        (new TcpServer("127.0.0.1:$port", $loop))->on('connection', fn (ConnectionInterface $c) => $this->serve($c));
        $this->control = new Control($loop, $control, $token, [
            'status' => fn (): array => ['objects' => count($this->objects)],
            'put' => function (array $m): array {
                foreach (is_array($m['objects'] ?? null) ? $m['objects'] : [] as $object) {
                    is_array($object) ? $this->write(['put' => $object]) : null;
                }

                return ['objects' => count($this->objects)];
            },
        ]);
    }

    private function serve(ConnectionInterface $connection): void
    {
        $buffer = '';
        $connection->on('data', function (string $data) use ($connection, &$buffer): void {
            $buffer .= $data;
            $head = strpos($buffer, "\r\n\r\n");
            if (strlen($buffer) > self::MOST || $head === false) {
                strlen($buffer) > self::MOST ? $connection->close() : null;

                return;
            }
            $length = preg_match('/^Content-Length: *(\d+)\r$/mi', substr($buffer, 0, $head + 2), $m) === 1 ? (int) $m[1] : 0;
            if (strlen($buffer) < $head + 4 + $length || $this->control->mode === Mode::Silent) {
                return;
            }
            [$status, $body] = $this->answer(substr($buffer, 0, $head + 2), substr($buffer, $head + 4, $length));
            $text = $body === null ? '' : json_encode($body, JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE)."\n";
            $send = fn () => $connection->end("HTTP/1.1 $status\r\nContent-Type: application/json\r\nContent-Length: "
                .strlen((string) $text)
                ."\r\nConnection: close\r\n\r\n$text");
            $this->control->mode === Mode::Slow ? $this->loop->addTimer(Mode::DELAY, $send) : $send();
        });
    }

    /** @return array{string, ?array<string, mixed>} status and body */
    private function answer(string $head, string $body): array
    {
        [$method, $target] = preg_match('/\A([A-Z]+) (\S+) /', $head, $m) === 1 ? [$m[1], $m[2]] : ['', ''];
        $given = preg_match('/^Authorization: Bearer (\S+)\r$/mi', $head, $m) === 1 ? $m[1] : '';
        if (! hash_equals($this->token, $given)) {
            return ['401 Unauthorized', ['error' => 'the token is wrong']];
        }
        if ($this->control->mode === Mode::Refusing) {
            return ['503 Service Unavailable', ['error' => 'told to refuse']];
        }
        $url = parse_url($target);
        $path = is_array($url) ? $url['path'] ?? '' : '';
        parse_str(is_array($url) ? $url['query'] ?? '' : '', $query);
        $id = preg_match('~\A/api/pools/([A-Za-z0-9-]{1,60})\z~', $path, $m) === 1 ? $m[1] : null;

        return match (true) {
            $path === '/api' => ['200 OK', ['system' => 'pools', 'version' => 1, 'may' => ['read', 'write']]],
            $path === '/api/pools' && $method === 'GET' => ['200 OK',
                $this->page(is_string($query['after'] ?? null) ? $query['after'] : '')],
            $id !== null && $method === 'GET' => isset($this->objects[$id]) ? ['200 OK', $this->objects[$id]]
                : ['404 Not Found', ['error' => 'no such pool']],
            $id !== null && $method === 'PUT' => $this->put($id, json_decode($body, true)),
            $id !== null && $method === 'DELETE' => $this->cut($id),
            default => ['404 Not Found', ['error' => 'there is nothing here']],
        };
    }

    /** @return array{pools: list<array<string, mixed>>, next: ?string} */
    private function page(string $after): array
    {
        ksort($this->objects, SORT_STRING);
        $behind = array_filter($this->objects, static fn (string $id): bool => $id > $after, ARRAY_FILTER_USE_KEY);
        $page = array_slice(array_values($behind), 0, self::PAGE);

        return ['pools' => $page, 'next' => count($behind) > self::PAGE ? $page[self::PAGE - 1]['id'] : null];
    }

    /** @return array{string, array<string, mixed>} */
    private function put(string $id, mixed $object): array
    {
        if (! is_array($object) || ! is_string($object['prefix'] ?? null)) {
            return ['400 Bad Request', ['error' => 'a prefix is missing']];
        }
        try {
            $net = Prefix::parse($object['prefix']);
        } catch (NotUnderstood $e) {
            return ['400 Bad Request', ['error' => $e->getMessage()]];
        }
        $pool = ($object['pool'] ?? false) === true;
        $holds = false;
        foreach ($this->objects as $other) {
            $around = Prefix::tryParse($other['prefix']);
            if ($other['id'] !== $id && $other['pool'] === $pool && $around?->equals($net) === true) {
                return ['409 Conflict', ['error' => "$net is there already"]];
            }
            $holds = $holds || $other['pool'] && $around?->contains($net) === true;
        }
        if (! $pool && ! $holds) {
            return ['409 Conflict', ['error' => "no pool holds $net"]];
        }
        $old = $this->objects[$id] ?? null;
        if ($old !== null && $this->control->mode === Mode::Wrong) {
            $object['gateway'] = $old['gateway'];
        }
        $this->write(['put' => ['id' => $id] + $object]);

        return [$old === null ? '201 Created' : '200 OK', $this->objects[$id]];
    }

    /** @return array{string, ?array<string, mixed>} */
    private function cut(string $id): array
    {
        $object = $this->objects[$id] ?? null;
        if ($object === null) {
            return ['404 Not Found', ['error' => 'no such pool']];
        }
        $net = Prefix::tryParse($object['prefix']);
        $inside = array_filter($object['pool'] ? $this->objects : [], static fn (array $o): bool => $o['id'] !== $id
            && ($part = Prefix::tryParse($o['prefix'])) !== null && $net?->contains($part) === true);
        if ($inside !== []) {
            return ['409 Conflict', ['error' => 'the pool is in use: '.implode(', ', array_slice(array_column($inside, 'prefix'), 0, 5))]];
        }
        $this->write(['cut' => $id]);

        return ['204 No Content', null];
    }

    /** @param  array<string, mixed>  $entry */
    private function write(array $entry): void
    {
        $this->journal->append($entry);
        $this->keep($entry);
    }

    /** @param  array<mixed>  $entry */
    private function keep(array $entry): void
    {
        $put = $entry['put'] ?? null;
        if (is_array($put) && is_string($put['id'] ?? null)) {
            $text = static fn (string $key): string => is_string($put[$key] ?? null) ? $put[$key] : '';
            $list = static fn (string $key): array => array_values(array_filter(is_array($put[$key] ?? null) ? $put[$key] : [],
                is_string(...)));
            $this->objects[$put['id']] = [
                'id' => $put['id'], 'prefix' => $text('prefix'), 'pool' => ($put['pool'] ?? false) === true, 'name' => $text('name'),
                'gateway' => $text('gateway'), 'resolvers' => $list('resolvers'), 'leases' => $list('leases'),
            ];
        }
        if (is_string($entry['cut'] ?? null)) {
            unset($this->objects[$entry['cut']]);
        }
    }
}
