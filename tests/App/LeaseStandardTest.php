<?php

declare(strict_types=1);

use App\Acts\Directory\MakeServer;
use App\Links\Unanswered;
use App\Live\LeaseReading;
use App\Models\Lease;
use App\Models\Server;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQuery;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseState;
use HarborPost\Core\Dhcp\LeaseQuery\QueryStatus;
use HarborPost\Core\Dhcp\V4\MessageType;
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
        ->assertReads('not allowed to ask')->assertReads('by the standard, RFC 6926');
    $this->s->tell('dh1', 'mode', ['mode' => 'normal']);
    expect(Artisan::call('leases:read', ['server' => 'harbour9']))->toBe(0)->and(Artisan::output())->toContain('41 same');
});

it('asks a server about one lease by a packet (RFC 4388)', function (string $what, int $status, string $says): void {
    expect(Artisan::call('lease:ask', ['server' => 'harbour9', 'what' => $what, '--json' => true]))->toBe($status);
    expect($status === 2 ? $says : json_decode(Artisan::output(), true)['says'])->toBe($says);
})->with([
    ['192.0.2.33', 0, 'leased'], ['02-00-5e-00-53-21', 0, 'leased'], ['0102005e005321', 0, 'leased'],
    ['192.0.2.90', 1, 'served from there, and leased to nobody'], ['203.0.113.1', 1, 'not known there'],
    ['2001:db8::1', 2, ''], ['fish', 2, ''],
]);
