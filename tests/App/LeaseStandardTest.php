<?php

declare(strict_types=1);

use App\Acts\Directory\MakeServer;
use App\Acts\Lease\MakeScope;
use App\Links\Unanswered;
use App\Live\LeaseReading;
use App\Models\Lease;
use App\Models\Server;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQuery;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQueryV6;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseState;
use HarborPost\Core\Dhcp\LeaseQuery\QueryStatus;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType as MessageV6;
use HarborPost\Core\Dhcp\V6\OptionList;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->s = new Standins(['dh1' => 'dhcp']);
    $this->w = World::make();
    $scope = [
        'id' => 'theirs', 'name' => 'x', 'subnet' => '192.0.2.0/24', 'ranges' => ['192.0.2.20-192.0.2.120'], 'exclusions' => [],
        'lease_time' => 3600, 'options' => [], 'reservations' => [],
    ];
    $this->s->tell('dh1', 'put', ['scope' => $scope]);
    $this->at = time();
    $this->one = fn (int $i): array => [
        'scope' => 'theirs', 'address' => "192.0.2.$i", 'mac' => sprintf('02:00:5e:00:53:%02x', $i), 'name' => "till-$i",
        'starts' => $this->at - 60, 'ends' => $this->at + 3600,
    ];
    $this->s->tell('dh1', 'grant', ['leases' => array_map($this->one, range(20, 60))]);
    $make = MakeServer::fromInput(['name' => 'harbour9', 'kind' => 'dhcp', 'endpoint' => $this->s->endpoint('dh1')]);
    $this->w->did($make);
    $this->server = Server::query()->findOrFail($make->id);
    $this->read = fn (): array => app(LeaseReading::class)->read($this->server);
});

it('reads the leases of a server that is controlled by others, by the standard alone (RFC 6926)', function (): void {
    expect($this->server->control)->toBeNull()->and(($this->read)())->toBe(
        ['added' => 41, 'changed' => 0, 'same' => 0, 'gone' => 0, 'refused' => []],
    );
    $lease = Lease::query()->where('server_id', $this->server->id)->where('host_name', 'till-20')->sole();
    expect((string) $lease->mac)->toBe('02:00:5e:00:53:14')->and($lease->state)->toBe('active')
        ->and($lease->starts_at->getTimestamp())->toBe($this->at - 60)->and($lease->ends_at->getTimestamp())->toBe($this->at + 3600);
    // Nothing changed: the server's own clock keeps the times where they were.
    sleep(1);
    expect(($this->read)())->toMatchArray(['added' => 0, 'changed' => 0, 'same' => 41, 'gone' => 0]);
    $this->s->tell('dh1', 'grant', ['leases' => [['name' => 'kiosk'] + ($this->one)(20), ($this->one)(70)]]);
    expect(($this->read)())->toMatchArray(['added' => 1, 'changed' => 1, 'same' => 40, 'gone' => 0]);
});

it('marks as gone what a whole answer does not tell of, in whatever order it lists, and nothing before its end', function (): void {
    // Another's server: from the last address to the first, more than a page of them, and cut off where it is told to.
    $says = function (array $numbers, bool $whole = true): Closure {
        $listens = stream_socket_server('tcp://127.0.0.1:0', $code, $why);
        DB::table('servers')->where('id', $this->server->id)->update(['endpoint' => stream_socket_get_name($listens, false)]);
        $this->server->refresh();
        $child = pcntl_fork();
        if ($child === 0) {
            $c = stream_socket_accept($listens);
            $asked = LeaseQuery::fromWire(substr((string) fread($c, 4096), 2));
            foreach ($numbers as $i) {
                fwrite($c, $asked->answered(
                    MessageType::LeaseActive, Address::parse('16.32.'.intdiv($i, 250).'.'.($i % 250)),
                    MacAddress::parse(sprintf('02:00:5e:00:%02x:%02x', $i >> 8, $i & 255)), '', "h$i", LeaseState::Active,
                    $this->at - 60, $this->at + 3600, $this->at,
                )->framed());
            }
            $whole && fwrite($c, $asked->done(QueryStatus::Success)->framed());
            fclose($c);
            posix_kill(getmypid(), SIGKILL);
        }

        return fn () => pcntl_waitpid($child, $status);
    };
    $all = range(1299, 1);
    $ended = $says($all);
    expect(($this->read)())->toBe(['added' => 1299, 'changed' => 0, 'same' => 0, 'gone' => 0, 'refused' => []]);
    $ended();
    $ended = $says(array_slice($all, 0, 1050), whole: false);
    expect(fn () => ($this->read)())->toThrow(Unanswered::class, 'before its answer was whole');
    $ended();
    $there = fn (): int => Lease::query()->where('server_id', $this->server->id)->whereNull('gone_at')->count();
    expect($there())->toBe(1299);
    shuffle($all);
    $ended = $says(array_diff($all, [1, 7, 640, 1299]));
    expect(($this->read)())->toBe(['added' => 0, 'changed' => 0, 'same' => 1295, 'gone' => 4, 'refused' => []])->and($there())->toBe(1295);
    $ended();
    $ended = $says([7]);
    expect(($this->read)())->toMatchArray(['added' => 0, 'changed' => 1, 'gone' => 1295])->and($there())->toBe(1);
    $ended();
});

it('says why leases could not be read, and marks none as gone for it', function (): void {
    ($this->read)();
    $this->s->tell('dh1', 'mode', ['mode' => 'refusing']);
    expect(Artisan::call('leases:read', ['server' => 'harbour9']))->toBe(1);
    expect(Lease::query()->where('server_id', $this->server->id)->whereNull('gone_at')->count())->toBe(41);
    $this->actingAs($this->w->people['operator'])->get("/ship/server/{$this->server->id}")->assertOk()
        ->assertReads('not allowed to ask')->assertReads('by the standards, RFC 6926 and RFC 5460');
    $this->s->tell('dh1', 'mode', ['mode' => 'normal']);
    expect(Artisan::call('leases:read', ['server' => 'harbour9']))->toBe(0)->and(Artisan::output())->toContain('41 same');
});

it('asks a server about one lease by a packet (RFC 4388)', function (string $what, int $status, string $says): void {
    expect(Artisan::call('lease:ask', ['server' => 'harbour9', 'what' => $what, '--json' => true]))->toBe($status);
    expect($status === 2 ? $says : json_decode(Artisan::output(), true)['says'])->toBe($says);
})->with([
    ['192.0.2.33', 0, 'leased'], ['02-00-5e-00-53-21', 0, 'leased'], ['0102005e005321', 0, 'leased'],
    ['192.0.2.90', 1, 'served from there, and leased to nobody'], ['203.0.113.1', 1, 'not known there'],
    ['2001:db8::1', 1, 'leased to nobody there'], ['fish', 2, ''],
]);

it('reads the leases of IPv6 by the standard, link by link (RFC 5460), and asks about one (RFC 5007)', function (): void {
    $w = $this->w;
    $w->carve('2001:db8:36::/48', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Quay, IPv6']);
    $scopes = [];
    foreach (['1', '2'] as $n) {
        $link = $w->carve("2001:db8:36:$n::/64", ['name' => "Quay $n, IPv6", 'stage' => 'live']);
        $make = MakeScope::fromInput([
            'prefix' => $link->id, 'name' => "Quay $n", 'ranges' => ["2001:db8:36:$n::1000-2001:db8:36:$n::1fff"],
            'servers' => [$this->server->id], 'dns' => '2001:db8:36::53',
        ]);
        $w->did($make);
        $scopes[$n] = $make->id;
        $this->s->tell('dh1', 'put', ['scope' => [
            'id' => "link-$n", 'name' => 'x', 'family' => 6, 'subnet' => "2001:db8:36:$n::/64", 'exclusions' => [], 'lease_time' => 3600,
            'ranges' => ["2001:db8:36:$n::1000-2001:db8:36:$n::1fff"], 'options' => [], 'reservations' => [], 'preferred' => 1800,
        ]]);
    }
    $lease = fn (string $link, int $i): array => [
        'address' => "2001:db8:36:$link::".dechex(0x1000 + $i), 'length' => 128, 'iaid' => 1, 'scope' => "link-$link", 'name' => '',
        'client' => '00:03:00:01:02:00:5e:00:'.implode(':', str_split(sprintf('%04x', $i), 2)), 'starts' => $this->at - 60,
        'ends' => $this->at + 3600, 'preferred' => $this->at + 1800,
    ];
    $this->s->tell('dh1', 'grant', ['leases' => [...array_map(fn (int $i): array => $lease('1', $i), range(1, 700)), $lease('2', 1)]]);
    // Of IPv4 nothing is leased from there by the plan, so that is not asked for.
    expect(($this->read)())->toBe(['added' => 701, 'changed' => 0, 'same' => 0, 'gone' => 0, 'refused' => []]);
    $row = Lease::query()->where('address', inet_pton('2001:db8:36:2::1001'))->sole();
    expect($row->scope_id)->toBe($scopes['2'])->and((string) $row->mac)->toBe('02:00:5e:00:00:01')->and($row->state)->toBe('active')
        ->and(abs($row->ends_at->getTimestamp() - $this->at - 3600))->toBeLessThan(3);
    sleep(1);
    expect(($this->read)())->toMatchArray(['added' => 0, 'changed' => 0, 'same' => 701, 'gone' => 0]);
    $this->s->tell('dh1', 'end', ['leases' => [['address' => '2001:db8:36:1::1005', 'client' => $lease('1', 5)['client']]]]);
    expect(($this->read)())->toMatchArray(['same' => 700, 'gone' => 1]);
    // One client on two links is told of as such; on one link it is told with all that it has.
    $ask = fn (string $what): array => [
        Artisan::call('lease:ask', ['server' => 'harbour9', 'what' => $what, '--json' => true]),
        json_decode(Artisan::output(), true)['says'],
    ];
    expect($ask('2001:db8:36:1::1002'))->toBe([0, 'leased'])->and($ask('2001:db8:36:1::1005'))->toBe([1, 'leased to nobody there'])
        ->and($ask($lease('1', 2)['client']))->toBe([0, 'leased'])
        ->and($ask($lease('1', 1)['client']))->toBe([0, 'leased on more than one link: 2001:db8:36:1::, 2001:db8:36:2::']);
    $this->s->tell('dh1', 'mode', ['mode' => 'refusing']);
    expect(fn () => ($this->read)())->toThrow(Unanswered::class, 'not allowed to ask')->and($ask('2001:db8:36:1::1002')[0])->toBe(1)
        ->and(Lease::query()->where('server_id', $this->server->id)->whereNull('gone_at')->count())->toBe(700);
});

it('takes nothing for gone when an answer about a link is not whole, or not of it', function (): void {
    $link = $this->w->carve('2001:db8:37::/64', ['name' => 'Far quay', 'stage' => 'live']);
    $this->w->did(MakeScope::fromInput([
        'prefix' => $link->id, 'name' => 'Far quay', 'ranges' => ['2001:db8:37::1000-2001:db8:37::1fff'],
        'servers' => [$this->server->id], 'dns' => '2001:db8:36::53',
    ]));
    expect(fn () => ($this->read)())->toThrow(Unanswered::class, 'does not serve that link');
    DB::table('leases')->insert([
        'server_id' => $this->server->id, 'address' => inet_pton('2001:db8:37::1000'), 'state' => 'active', 'host_name' => '',
        'starts_at' => now(), 'ends_at' => now()->addHour(),
    ]);
    $said = function (Closure $messages): void {
        $listens = stream_socket_server('tcp://127.0.0.1:0', $code, $why);
        DB::table('servers')->where('id', $this->server->id)->update(['endpoint' => stream_socket_get_name($listens, false)]);
        $this->server->refresh();
        $pid = pcntl_fork();
        if ($pid === 0) {
            $asks = stream_socket_accept($listens, 5);
            $length = unpack('n', (string) fread($asks, 2))[1];
            $asked = Message::fromWire((string) fread($asks, $length));
            foreach ($messages($asked) as $message) {
                fwrite($asks, LeaseQueryV6::framed($message));
            }
            fclose($asks);
            posix_kill(getmypid(), SIGKILL);
        }
        try {
            ($this->read)();
        } finally {
            pcntl_waitpid($pid, $status);
        }
    };
    $data = [LeaseQueryV6::CLIENT_DATA, LeaseQueryV6::data([[
        'address' => '2001:db8:37::1001', 'length' => 128, 'client' => '00:03:00:01:02:00:5e:00:53:01', 'starts' => time(),
        'ends' => time() + 60, 'preferred' => time() + 60,
    ]], time())];
    $reply = fn (Message $asked, int $more = 0): Message => new Message(
        MessageV6::LeaseQueryReply, $asked->transaction + $more, new OptionList([$data]),
    );
    $wrong = [
        fn (Message $a): array => [$reply($a)], fn (Message $a): array => [$reply($a, 1)],
        fn (Message $a): array => [$reply($a), $reply($a)],
    ];
    foreach ($wrong as $messages) {
        expect(fn () => $said($messages))->toThrow(Unanswered::class)
            ->and(Lease::query()->where('address', inet_pton('2001:db8:37::1000'))->sole()->gone_at)->toBeNull();
    }
    $said(fn (Message $a): array => [$reply($a), new Message(MessageV6::LeaseQueryDone, $a->transaction, new OptionList)]);
    expect(Lease::query()->where('address', inet_pton('2001:db8:37::1000'))->sole()->gone_at)->not->toBeNull();
});
