<?php

declare(strict_types=1);

use App\Acts\Directory\MakeServer;
use App\Live\LeaseReading;
use App\Models\Lease;
use App\Models\Server;
use Illuminate\Support\Facades\Artisan;
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
