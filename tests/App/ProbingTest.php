<?php

declare(strict_types=1);

use App\Acts\Lease\SetProbing;
use App\Links\Links;
use App\Links\ScopeForm;
use App\Models\Scope;
use App\Models\Server;
use HarborPost\Core\Dhcp\Option\OptionTable;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Dhcp\V4\Packet;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

/** Sends a DISCOVER by way of a relay and waits for the offer. */
function discovered(string $endpoint, string $relay, string $mac): array
{
    $socket = stream_socket_client("udp://$endpoint", $code, $why, 1.0);
    $began = microtime(true);
    $client = MacAddress::parse($mac);
    $packet = Packet::fromClient(MessageType::Discover, random_int(1, 0x7FFFFFFF), $client, [], Address::parse($relay));
    fwrite($socket, $packet->wire());
    stream_set_timeout($socket, 4);
    $answer = (string) fread($socket, 4096);
    $offer = $answer === '' ? null : Packet::fromWire($answer);

    return [$offer === null ? null : (string) $offer->yourAddress, microtime(true) - $began, $offer?->type()];
}

beforeEach(function (): void {
    $this->w = World::make();
});

it('is set for many servers at once, with its cost said, and reaches the server with its scopes', function (): void {
    $server = $this->w->servers['dh1'];
    $refusal = fn (array $more): ?string => $this->w->refusal(SetProbing::class,
        $more + ['servers' => [$server], 'tries' => 2, 'wait' => 500]);
    expect($refusal(['tries' => 5, 'wait' => 500]))->toBe('probes-too-long')->and($refusal(['servers' => []]))->toBe('nothing-chosen')
        ->and($refusal(['servers' => [$this->w->servers['ns1']]]))->toBe('no-lease-server')->and($refusal([]))->toBeNull();
    $scope = Scope::query()->findOrFail($this->w->scope->id);
    $before = ScopeForm::digest($scope, Server::query()->findOrFail($server));
    $act = SetProbing::fromInput(['servers' => [$server], 'tries' => 2, 'wait' => 300]);
    expect($this->w->acts()->rehearse($this->w->people['operator'], [$act])->ledgers[0]->later[0][0])->toContain('600 ms later');
    $this->w->did($act);
    $row = Server::query()->findOrFail($server);
    expect(ScopeForm::digest($scope, $row))->not->toBe($before)
        ->and(ScopeForm::lines(ScopeForm::of($scope, $row)))->toContain('probes 2 times, 300 ms each')
        ->and(ScopeForm::whole(ScopeForm::of($scope, $row))['probe'])->toBe(['tries' => 2, 'wait_ms' => 300]);
    $this->actingAs($this->w->people['operator'])->get("/lease/scope/$scope->id")->assertOk()->assertReads('600');
    $this->get('/lease/coverage')->assertOk()->assertReads('2 × 300 ms');
    $this->w->did(SetProbing::fromInput(['servers' => [$server], 'tries' => 0]));
    expect(ScopeForm::digest($scope, Server::query()->findOrFail($server)))->toBe($before);
});

it('finds an address that somebody took by hand, offers the next, and waits as long as it says', function (): void {
    $standins = new Standins(['dh1' => 'dhcp', 'keel' => 'network']);
    $server = Server::query()->findOrFail($this->w->servers['dh1']);
    DB::table('servers')->where('id', $server->id)->update([
        'control' => '127.0.0.1:'.$standins->settings['dh1']['control'], 'endpoint' => $standins->endpoint('dh1'),
        'token' => encrypt('secret', false), 'probe_tries' => 2, 'probe_wait_ms' => 200,
    ]);
    Links::to($server->refresh())->apply('scope', $this->w->scope->id);
    $ask = fn (string $mac): array => discovered($standins->endpoint('dh1'), '192.0.2.1', $mac);
    [$first, $took, $type] = $ask('02:00:00:00:00:01');
    expect($type)->toBe(MessageType::Offer)->and($took)->toBeGreaterThan(0.39);
    // Somebody sits on what would be next.
    $next = (string) Address::parse((string) $first)->next();
    $standins->tell('keel', 'hosts', ['hosts' => [['address' => $next, 'mac' => '02:00:00:00:00:99']]]);
    [$second] = $ask('02:00:00:00:00:02');
    expect($second)->not->toBe($next)->not->toBe($first)->not->toBeNull();
    $leases = collect((array) $standins->tell('dh1', 'leases')['leases']);
    expect($leases->firstWhere('address', $next)['state'])->toBe('declined');
    // A client that holds its lease answers for it itself, and is not probed.
    $standins->tell('keel', 'hosts', ['hosts' => [['address' => (string) $first, 'mac' => '02:00:00:00:00:01']]]);
    expect($ask('02:00:00:00:00:01')[0])->toBe($first);
    // A network that is away answers for nobody: offers go on.
    $standins->kill('keel');
    expect($ask('02:00:00:00:00:05')[0])->not->toBeNull();
    expect(OptionTable::SERVER_ID)->toBe(54);
});
