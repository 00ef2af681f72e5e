<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Lease\AddReservation;
use App\Acts\Lease\ChangeScope;
use App\Acts\Lease\KeepRange;
use App\Acts\Lease\MakePair;
use App\Acts\Lease\MakeScope;
use App\Acts\Lease\MakeScopes;
use App\Acts\Lease\PasteReservations;
use App\Acts\Lease\RemoveScope;
use App\Acts\Lease\ReserveLeases;
use App\Acts\Lease\SetOption;
use App\Acts\Lease\SetShares;
use App\Acts\Plan\ChangePrefix;
use App\Links\LeaseLink;
use App\Links\Links;
use App\Links\RelayedClient;
use App\Links\ScopeForm;
use App\Live\ExchangeV6;
use App\Live\LeaseReading;
use App\Models\Lease;
use App\Models\OptionValue;
use App\Models\Reservation;
use App\Models\Scope;
use App\Models\ScopeDelegation;
use App\Models\Server;
use App\Models\ShipmentState;
use App\Queries\Invariants;
use App\Queries\LostLeases;
use App\Queries\OptionLayers;
use App\Queries\ServedClientV6;
use App\Shipping\LeaseEnd;
use App\Shipping\LeaseReturn;
use App\Shipping\ScopeDrift;
use App\Shipping\Shipping;
use HarborPost\Core\Dhcp\V6\ClientSketch;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\Relayed;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\Family;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $w = $this->w;
    $w->carve('2001:db8:36::/48', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Quay, IPv6']);
    $this->link = $w->carve('2001:db8:36:1::/64', ['name' => 'Ticketing, IPv6', 'stage' => 'live']);
    $w->did(new ChangePrefix([$this->link->id], gateway: '2001:db8:36:1::1'));
    $this->pool = $w->carve('2001:db8:36:8000::/52', ['kind' => 'pool', 'stage' => 'live', 'name' => 'Vessels']);
    $this->make = function (array $more = []) use ($w): Scope {
        $act = MakeScope::fromInput($more + [
            'prefix' => $this->link->id, 'name' => 'Ticketing v6', 'ranges' => ['2001:db8:36:1::1000-2001:db8:36:1::1fff'],
            'servers' => [$w->servers['dh1'], $w->servers['dh2']], 'divide' => '1', 'leaseTime' => '4h', 'preferred' => '2h',
            'delegations' => ['2001:db8:36:8000::/52 as /56'], 'dns' => '2001:db8:36::53', 'search' => 'quay.example',
        ]);
        $w->did($act);

        return Scope::query()->findOrFail($act->id);
    };
    $this->server = fn (string $name): Server => Server::query()->findOrFail($w->servers[$name]);
    $this->start = function (): void {
        $this->s = new Standins(['dh1' => 'dhcp', 'dh2' => 'dhcp']);
        foreach ($this->s->settings as $name => $own) {
            $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
        }
    };
    $this->ship = fn (string $name): array => app(Shipping::class)->ship(null, ($this->server)($name));
    config(['harbor.patience' => 1.0]);
});

it('makes a scope of IPv6 whose servers have parts of their own, of addresses and of prefixes', function (): void {
    $scope = ($this->make)();
    expect($scope->ranges)->toHaveCount(2)->and((string) $scope->ranges[0]->range()->size())->toBe('3276')
        ->and($scope->delegations->map(fn (ScopeDelegation $d): string => $d->line())->all())
        ->toBe(['2001:db8:36:8000::/53 as /56', '2001:db8:36:8800::/53 as /56'])
        ->and($scope->delegations->pluck('server_id')->unique())->toHaveCount(2)->and($scope->preferred())->toBe(7200)
        ->and($scope->optionValues->pluck('code')->all())->toBe([23, 24])
        ->and($scope->optionValues[0]->family)->toBe(Family::V6)
        ->and($scope->advertisement()->lines())->toBe([
            'advertises addresses by DHCPv6 (M) on', 'advertises other things by DHCPv6 (O) on',
            'advertises addresses of one\'s own (A) off',
        ]);
});

it('is shipped, read back and proved by packets, to the prefix that a router is delegated', function (): void {
    ($this->start)();
    $scope = ($this->make)();
    $result = ($this->ship)('dh1');
    expect($result['state'])->toBe(ShipmentState::Done);
    $words = implode(' ', array_map(json_encode(...), $result['steps']));
    expect($words)->toContain('INFORMATION-REQUEST through 2001:db8:36:1::1 answered, 2 options right')
        ->and($words)->toContain('offered, taken and given back')->and($words)->toContain('\/56 offered');
    ($this->ship)('dh2');
    expect(array_filter(Links::to(($this->server)('dh1'))->compare(), fn ($d): bool => $d->needsShipping()))->toBe([]);

    $client = new ClientSketch(Duid::ofName('vessel'), 7, true, 56, [23, 24], 'vessel-1');
    foreach (['dh1', 'dh2'] as $name) {
        $computed = ServedClientV6::of($scope->refresh(), $client);
        $exchange = ExchangeV6::run($scope, ($this->server)($name), $client);
        expect(array_column($exchange->steps, 'type'))->toBe(['SOLICIT', 'ADVERTISE', 'REQUEST', 'REPLY', 'RELEASE', 'REPLY'])
            ->and($exchange->problem)->toBeNull()->and($exchange->findings($computed, ($this->server)($name)))->toBe([]);
        [$address, $prefix] = $exchange->reply()->associations();
        $own = $scope->ranges->firstWhere('server_id', $this->w->servers[$name])->range();
        expect($own->contains($address->leases[0]->net->first))->toBeTrue()->and($address->leases[0]->preferred)->toBe(7200)
            ->and($prefix->leases[0]->net->length)->toBe(56);
    }
});

it('reads the leases of both families, prefixes among them, and gives them back to a rebuilt server', function (): void {
    ($this->start)();
    $scope = ($this->make)(['servers' => [$this->w->servers['dh1']]]);
    ($this->ship)('dh1');
    $relay = Address::parse('2001:db8:36:1::1');
    $ask = fn (Message $m): Message => (new RelayedClient('dh1', $this->s->endpoint('dh1'), 1.0))
        ->exchange(Relayed::through($relay, Address::parse('fe80::9'), $m))[0];
    $client = new ClientSketch(Duid::parse('00:03:00:01:00:00:5e:00:53:17'), 7, true, 0, name: 'purser');
    $offer = $ask($client->first(5));
    $reply = $ask($client->message(MessageType::Request, 6, $offer->associations(), $offer->options->first(Code::SERVER_ID)));
    $read = app(LeaseReading::class);
    $log = $read->read(($this->server)('dh1'));
    expect($log['refused'])->toBe([])->and($log['added'])->toBe(Lease::query()->where('server_id', $this->w->servers['dh1'])->count());
    $leases = Lease::query()->where('scope_id', $scope->id)->where('state', 'active')->orderBy('length')->get();
    expect($leases)->toHaveCount(2)->and((string) $leases[0]->mac)->toBe('00:00:5e:00:53:17')->and($leases[0]->host_name)->toBe('purser')
        ->and($leases[0]->iaid)->toBe(7)->and($leases[0]->preferred_at->lessThan($leases[0]->ends_at))->toBeTrue()
        ->and($leases[1]->length)->toBe(56)->and($leases[1]->given())->toEndWith('/56')
        ->and($leases[1]->given())->toBe((string) $reply->associations()[1]->leases[0]->net)
        ->and($read->read(($this->server)('dh1')))->toMatchArray(['added' => 0, 'changed' => 0, 'gone' => 0]);

    // The same client is computed to get the same again.
    $again = ServedClientV6::of($scope->refresh(), $client);
    expect((string) $again->servers[0]['parts'][1]['choice']->net)->toBe($leases[1]->given())
        ->and($again->servers[0]['parts'][1]['choice']->why)->toBe('it has it now');

    $this->w->did(new ReserveLeases([(string) $leases[0]->id, (string) $leases[1]->id]));
    expect(Reservation::query()->where('scope_id', $scope->id)->orderBy('length')->get()->map(fn (Reservation $r): string => $r->line())
        ->all())
        ->toBe([
            "{$leases[0]->address} for 00:03:00:01:00:00:5e:00:53:17 iaid 7",
            "{$leases[1]->given()} for 00:03:00:01:00:00:5e:00:53:17 iaid 7",
        ]);

    $this->s->kill('dh1');
    exec('rm '.escapeshellarg($this->s->settings['dh1']['directory']).'/leases6.jsonl');
    $this->s->start('dh1');
    expect($read->read(($this->server)('dh1'))['gone'])->toBeGreaterThanOrEqual(2)
        ->and(LostLeases::of(($this->server)('dh1'))->count())->toBe(2)
        ->and(app(LeaseReturn::class)->to(($this->server)('dh1'), $this->w->people['operator'], 'its disk was lost'))
        ->toBe(['back' => 2, 'kept' => 0]);
    $read->read(($this->server)('dh1'));
    expect(Lease::query()->where('scope_id', $scope->id)->whereNull('gone_at')->where('state', 'active')->count())->toBe(2);
    $ended = app(LeaseEnd::class)->of($leases->fresh(), $this->w->people['operator'], 'tried');
    expect($ended)->toBe(['ended' => 2, 'left' => []]);
});

it('answers in one step by rapid commit, and with options alone where nothing is wanted', function (): void {
    ($this->start)();
    $scope = ($this->make)(['servers' => [$this->w->servers['dh1']], 'rapid' => '1']);
    ($this->ship)('dh1');
    $types = fn (ClientSketch $c): array => array_column(ExchangeV6::run($scope, ($this->server)('dh1'), $c)->steps, 'type');
    expect($types(new ClientSketch(Duid::ofName('r'), rapid: true)))->toBe(['SOLICIT', 'REPLY', 'RELEASE', 'REPLY'])
        ->and($types(new ClientSketch(Duid::ofName('i'), address: false)))->toBe(['INFORMATION-REQUEST', 'REPLY'])
        ->and($types(new ClientSketch(Duid::ofName('t'), address: true, prefix: 56)))->toHaveCount(6);
});

it('keeps leases and scopes over SIGKILL, and does not answer a link that it has no scope of', function (): void {
    ($this->start)();
    ($this->make)(['servers' => [$this->w->servers['dh1']], 'rapid' => '1']);
    ($this->ship)('dh1');
    $ask = fn (string $relay): Message => (new RelayedClient('dh1', $this->s->endpoint('dh1'), 0.4))->exchange(Relayed::through(
        Address::parse($relay),
        Address::parse('fe80::9'),
        (new ClientSketch(Duid::ofName('k'), rapid: true))->first(9),
    ))[0];
    $first = (string) $ask('2001:db8:36:1::1')->associations()[0]->leases[0]->net;
    $this->s->kill('dh1');
    $this->s->start('dh1');
    expect((string) $ask('2001:db8:36:1::1')->associations()[0]->leases[0]->net)->toBe($first)
        ->and(fn () => $ask('2001:db8:99::1'))->toThrow(\App\Links\Unanswered::class);
});

it('refuses what would give one address or one prefix to two', function (): void {
    $w = $this->w;
    $base = [
        'prefix' => $this->link->id, 'servers' => [$w->servers['dh1'], $w->servers['dh2']], 'leaseTime' => '4h',
        'ranges' => ['2001:db8:36:1::1000-2001:db8:36:1::1fff'],
    ];
    expect($w->refusal(MakeScope::class, $base))->toBe('undivided')
        ->and($w->refusal(MakeScope::class, ['ranges' => [], 'delegations' => ['2001:db8:36:8000::/52 as /56']] + $base))->toBe('undivided')
        ->and($w->refusal(MakeScope::class, ['divide' => '1', 'delegations' => ['2001:db8:36:8000::/56 as /56']] + $base))
        ->toBe('undivided')
        ->and($w->refusal(MakeScope::class, ['divide' => '1', 'delegations' => ['2001:db8:36:8000::/52 to /56']] + $base))
        ->toBe('bad-delegation')
        ->and($w->refusal(MakeScope::class, ['divide' => '1', 'delegations' => ['2001:db8:36::/48 as /56']] + $base))
        ->toBe('delegation-on-link')
        ->and($w->refusal(MakeScope::class, ['divide' => '1', 'delegations' => [
            '2001:db8:36:8000::/53 as /56@'.($this->server)('dh1')->name, '2001:db8:36:8000::/54 as /60@'.($this->server)('dh2')->name,
        ]] + $base))->toBe('delegation-overlap')
        ->and($w->refusal(MakeScope::class, ['delegations' => ['2001:db8:36:8000::/53 as /56@gone'], 'divide' => '1'] + $base))
        ->toBe('share-orphaned')
        ->and($w->refusal(MakeScope::class, ['preferred' => '5h', 'divide' => '1'] + $base))->toBe('preferred-beyond-valid')
        ->and($w->refusal(MakeScope::class, ['preferred' => 'soon', 'divide' => '1'] + $base))->toBe('bad-lease-time')
        ->and($w->refusal(MakeScope::class, ['router' => '2001:db8:36:1::1', 'divide' => '1'] + $base))->toBe('not-in-v6')
        ->and($w->refusal(MakeScope::class, ['ranges' => ['2001:db8:36:2::-2001:db8:36:2::f'], 'divide' => '1'] + $base))
        ->toBe('range-outside')
        ->and($w->refusal(MakeScopes::class, ['prefixes' => [$this->link->id], 'rule' => 'all']))->toBe('not-in-v6');

    ($this->make)();
    $other = $w->carve('2001:db8:36:2::/64', ['name' => 'Gates, IPv6', 'stage' => 'live']);
    $inside = ['prefix' => $other->id, 'servers' => [$w->servers['dh1']], 'delegations' => ['2001:db8:36:8c00::/54 as /60']];
    expect($w->refusal(MakeScope::class, $inside))->toBe('delegation-overlap')
        ->and($w->refusal(MakeScope::class, ['delegations' => ['2001:db8:36:1::/64 as /64']] + $inside))->toBe('delegation-over-subnet')
        ->and($w->refusal(MakeScope::class, ['prefix' => $w->carve('192.0.2.192/28')->id, 'delegations' => ['2001:db8:77::/48 as /56'],
            'ranges' => []]))
        ->toBe('delegation-of-v4');
});

it('lets no subnet stand in what is delegated, and says when a pool that is handed out goes', function (): void {
    $w = $this->w;
    ($this->make)();
    $w->did(new App\Acts\Plan\RemovePrefix($this->pool->id));
    $carve = fn (string $net, string $kind = 'subnet'): ?string => $w->refusal(
        App\Acts\Plan\CarvePrefix::class,
        ['space' => $w->space->id, 'prefix' => $net, 'kind' => $kind, 'stage' => 'live'],
    );
    expect($carve('2001:db8:36:8005::/64'))->toBe('delegated-here')->and($carve('2001:db8:36:8800::/53'))->toBe('delegated-here')
        ->and($carve('2001:db8:36:8000::/52', 'pool'))->toBeNull()->and($carve('2001:db8:36:8000::/54', 'pool'))->toBe('delegated-here')
        ->and($carve('2001:db8:36:9000::/64'))->toBeNull();
    $pool = $w->carve('2001:db8:36:8000::/52', ['kind' => 'pool', 'stage' => 'live', 'name' => 'Vessels again']);
    $codes = array_column($w->acts()->rehearse(null, [new App\Acts\Plan\RemovePrefix($pool->id)])->notes(), 'code');
    expect($codes)->toContain('pool-delegated');
});

it('leaves pairs, classes and waiting to IPv4, and says so', function (): void {
    $w = $this->w;
    $scope = ($this->make)();
    $pair = MakePair::fromInput(['name' => 'both', 'first' => $w->servers['dh1'], 'second' => $w->servers['dh2'], 'mode' => 'balance']);
    $w->did($pair);
    $class = \App\Acts\Lease\MakeClass::fromInput(['name' => 'Phones', 'fields' => ['vendor-class'], 'comparisons' => ['is'],
        'values' => ['x']]);
    $w->did($class);
    expect($w->refusal(\App\Acts\Lease\PairScopes::class, ['scopes' => [$scope->id], 'pair' => $pair->id]))->toBe('not-in-v6')
        ->and($w->refusal(KeepRange::class, [
            'scope' => $scope->id, 'range' => $scope->ranges[0]->id, 'for' => 'only', 'class' => $class->id,
        ]))->toBe('not-in-v6')
        ->and($w->refusal(SetShares::class, ['scopes' => [$scope->id], 'percent' => '50', 'delay' => '100']))->toBe('not-in-v6');
    $w->did(new SetShares([$scope->id], percent: 50));
    expect((string) $scope->refresh()->ranges[0]->range()->size())->toBe('2048');
});

it('reserves by DUID and number, addresses and prefixes, each once', function (): void {
    $w = $this->w;
    $scope = ($this->make)();
    $one = '00:03:00:01:00:00:5e:00:53:17';
    $w->did(new AddReservation($scope->id, '2001:db8:36:1::a', "$one iaid 7", 'purser'));
    $w->did(new AddReservation($scope->id, '2001:db8:36:1::b', $one));
    $w->did(new AddReservation($scope->id, '2001:db8:36:8100::/56', $one));
    $refused = fn (string $address, string $client): ?string => $w->refusal(
        AddReservation::class,
        ['scope' => $scope->id, 'address' => $address, 'mac' => $client],
    );
    expect($refused('2001:db8:36:1::a', '00:03:00:01:00:00:5e:00:53:18'))->toBe('address-reserved')
        ->and($refused('2001:db8:36:1::c', "$one iaid 7"))->toBe('mac-reserved')
        ->and($refused('2001:db8:36:8200::/56', $one))->toBe('mac-reserved')
        ->and($refused('2001:db8:36:8100::/60', '00:03:00:01:00:00:5e:00:53:18'))->toBe('address-reserved')
        ->and($refused('2001:db8:36:2::c', "$one iaid 8"))->toBe('reservation-outside')
        ->and($refused('2001:db8:36:1::1', "$one iaid 8"))->toBe('reservation-outside')
        ->and($refused('2001:db8:36:1::/72', "$one iaid 8"))->toBe('delegation-on-link')
        ->and($refused('2001:db8:36:1::c', '00:00:5e:00:53:17'))->toBe('bad-duid')
        ->and($refused('quay', $one))->toBe('bad-address')
        ->and($refused('2001:db8:36:1::c', "$one iaid 9999999999"))->toBe('bad-duid');
    $w->did(new PasteReservations($scope->id, "2001:db8:36:1::d 00:04:00:11 iaid 3 mast\n2001:db8:36:8300::/56, 00:04:00:12, keel"));
    expect($w->refusal(PasteReservations::class, ['scope' => $scope->id, 'lines' => '2001:db8:36:1::e']))->toBe('bad-line');
    $form = ScopeForm::of($scope->refresh(), ($this->server)('dh1'));
    expect(array_column($form['reservations'], 'net'))->toContain('2001:db8:36:8100::/56', '2001:db8:36:1::d')
        ->and(array_column($form['reservations'], 'iaid'))->toContain(7, null, 3);
    $terms = ServedClientV6::of($scope, new ClientSketch(Duid::parse($one), 7, true, 0));
    expect((string) $terms->servers[0]['parts'][0]['choice']->net)->toBe('2001:db8:36:1::a/128')
        ->and((string) $terms->servers[0]['parts'][1]['choice']->net)->toBe('2001:db8:36:8100::/56');
});

it('keeps the options of both families apart in every layer', function (): void {
    $w = $this->w;
    $scope = ($this->make)(['dns' => '', 'search' => '']);
    $w->did(new SetOption(code: 23, value: '64', layer: 'organisation'));
    $w->did(new SetOption(code: 23, value: '2001:db8::77', layer: 'server', of: $w->servers['dh1'], family: '6'));
    $w->did(new SetOption(code: 32, value: '3600', layer: 'organisation', family: '6'));
    expect($w->refusal(SetOption::class, ['code' => '23', 'value' => '2001:db8::1', 'layer' => 'organisation', 'family' => '6']))
        ->toBe('is-a-setting')
        ->and($w->refusal(SetOption::class, ['scope' => $scope->id, 'code' => '23', 'value' => '64']))->toBe('bad-option')
        ->and($w->refusal(SetOption::class, ['scope' => $scope->id, 'code' => '3', 'value' => '0x00']))->toBe('not-by-hand')
        ->and($w->refusal(SetOption::class, ['scope' => $w->scope->id, 'code' => '700', 'value' => '0x00']))->toBe('bad-option');
    $six = app(OptionLayers::class)->of($scope, ($this->server)('dh1'))->payloads();
    $four = (new OptionLayers(new App\Queries\Inherited))->of($w->scope, ($this->server)('dh1'))->payloads();
    expect(bin2hex($six[23]))->toBe(bin2hex(Address::parse('2001:db8::77')->bytes))->and($six[32])->toBe(pack('N', 3600))
        ->and($four[23])->toBe(chr(64))->and($four)->not->toHaveKey(32);
    $w->did(new SetOption($scope->id, 700, '0xbeef'));
    expect(OptionValue::query()->where('layer_id', $scope->id)->where('code', 700)->sole()->line())
        ->toBe('IPv6 option 700 option 700: 0xbeef');
});

it('hands resolvers and search suffixes down as options of the family', function (): void {
    $scope = ($this->make)(['dns' => '', 'search' => '']);
    $this->w->did(\App\Acts\Directory\SetSetting::fromInput([
        'layer' => 'prefix', 'object' => $this->link->id, 'key' => 'resolvers', 'value' => '192.0.2.53 2001:db8:36::53',
    ]));
    $stack = (new OptionLayers(new App\Queries\Inherited))->of($scope->refresh(), null);
    expect($stack->nearest()[23]->values)->toBe(['2001:db8:36::53'])->and($stack->nearest())->not->toHaveKey(6);
    // What clients of the link are given is asked by its own option first.
    $given = fn (): array => App\Queries\GivenResolvers::at(Address::parse('2001:db8:36:1::77'));
    expect($given())->toBe(['192.0.2.53', '2001:db8:36::53']);
    $this->w->did(new SetOption($scope->id, 23, '2001:db8:36::99'));
    expect($given())->toBe(['2001:db8:36::99']);
    $row = collect(App\Queries\GivenResolvers::everywhere())->firstWhere('label', 'scope Ticketing v6');
    expect($row['resolvers'])->toBe(['2001:db8:36::99']);
});

it('takes into the plan what somebody changed on the server, pool and life times too', function (): void {
    ($this->start)();
    $scope = ($this->make)(['servers' => [$this->w->servers['dh1']]]);
    ($this->ship)('dh1');
    $form = ScopeForm::of($scope->refresh(), ($this->server)('dh1'));
    $form['preferred'] = 3600;
    $form['rapid'] = true;
    $form['delegations'] = ['2001:db8:36:8000::/53 as /60'];
    $form['options'][31] = bin2hex(Address::parse('2001:db8::7b')->bytes);
    $form['reservations'][] = ['duid' => '00:04:00:11', 'iaid' => 3, 'net' => '2001:db8:36:1::d', 'name' => 'mast', 'options' => []];
    $this->s->tell('dh1', 'put', ['scope' => $form]);
    $link = Links::to(($this->server)('dh1'));
    $drift = new ScopeDrift($scope, ($this->server)('dh1'), $link instanceof LeaseLink ? $link->running($scope->id) : []);
    expect(array_keys($drift->lines()))->toBe(['preferred', 'rapid', 'delegations', 'option:31', 'client:00:04:00:11 iaid 3']);
    foreach ($drift->acts(array_keys($drift->lines())) as $act) {
        $this->w->did($act);
    }
    expect(array_diff(ScopeForm::lines($form), ScopeForm::lines(ScopeForm::of($scope->refresh(), ($this->server)('dh1')))))->toBe([]);
});

it('goes away with all that belongs to it', function (): void {
    $scope = ($this->make)();
    $this->w->did(new AddReservation($scope->id, '2001:db8:36:1::b', '00:04:00:11'));
    $this->w->did(new ChangeScope($scope->id, delegations: ['2001:db8:36:8000::/53 as /60@'.($this->server)('dh2')->name]));
    expect($scope->refresh()->delegations->pluck('server_id')->all())->toBe([$this->w->servers['dh2']]);
    $this->w->did(new RemoveScope($scope->id));
    expect(ScopeDelegation::query()->where('scope_id', $scope->id)->count())->toBe(0)
        ->and(Reservation::query()->where('scope_id', $scope->id)->count())->toBe(0);
});

it('does not take leases that a server tells wrong', function (): void {
    $scope = ($this->make)();
    $keep = new App\Acts\Lease\KeepLeases($this->w->servers['dh1'], [
        ['address' => '2001:db8:36:1::9', 'client' => 'x', 'state' => 'active', 'starts' => 1, 'ends' => 2, 'scope' => $scope->id],
        ['address' => '2001:db8:36:8001::', 'length' => 52, 'client' => '00:04:00:11', 'state' => 'active', 'starts' => 1, 'ends' => 2],
        ['address' => '2001:db8:36:8000::', 'length' => 129, 'client' => '00:04:00:11', 'state' => 'active', 'starts' => 1, 'ends' => 2],
        ['address' => '2001:db8:36:1::a', 'client' => '00:04:00:11', 'iaid' => 5, 'state' => 'active', 'starts' => 1, 'ends' => 2,
            'scope' => $scope->id],
    ]);
    $log = $this->w->did($keep)->made('leases');
    expect($log['added'])->toBe(1)->and($log['refused'])->toBe([
        '2001:db8:36:1::9: its DUID cannot be read', '2001:db8:36:8001::: its length is not of a prefix',
        '2001:db8:36:8000::: its length is not of a prefix',
    ]);
});

it('shows the scope, its leases and its exchange as they are, and tells programs the same', function (): void {
    ($this->start)();
    $scope = ($this->make)();
    ($this->ship)('dh1');
    ($this->ship)('dh2');
    $w = $this->w;
    $this->actingAs($w->people['operator']);
    $this->post('/lease/exchange', ['scope' => $scope->id, 'wants' => 'both', 'server' => $w->servers['dh1']])->assertOk()
        ->assertSee('As computed')->assertSee('ADVERTISE');
    $w->did(new App\Acts\Lease\KeepLeases($w->servers['dh1'], [
        ['address' => '2001:db8:36:8100::', 'length' => 56, 'client' => '00:04:00:11', 'iaid' => 5, 'name' => 'mv-dunlin',
            'state' => 'active',
            'starts' => time() - 60, 'ends' => time() + 9000, 'preferred' => time() + 7000, 'scope' => $scope->id],
        ['address' => '2001:db8:36:1::1001', 'client' => '00:03:00:01:00:00:5e:00:53:17', 'iaid' => 1, 'state' => 'active',
            'starts' => time() - 60, 'ends' => time() + 9000, 'scope' => $scope->id],
    ]));
    $this->actingAs($w->people['operator']);
    $this->get("/lease/scope/$scope->id")->assertOk()->assertSee('2001:db8:36:8000::/53')->assertSee('What the router says')
        ->assertSee('the subnet is in no VLAN')->assertSee('2001:db8:36:8100::/56')->assertSee('valid 4 h, preferred', false);
    $this->get("/plan/prefix/{$this->pool->id}")->assertOk()->assertReads('1 prefix is out')->assertSee('2001:db8:36:8100::/56')
        ->assertReads('2001:db8:36:8000::/53 as /56 by '.($this->server)('dh1')->name.', in Ticketing v6');
    $this->get('/lease?filter=is:v6')->assertOk()->assertSee('Ticketing v6')->assertSee('1 of 4,096');
    $this->get('/lease/leases?filter=00:03:00:01:00:00:5e:00:53:17')->assertOk()->assertSee('2001:db8:36:1::1001')->assertDontSee('8100::');
    $lease = Lease::query()->where('length', 56)->sole();
    $this->get("/lease/leases/$lease->id")->assertOk()->assertSee('2001:db8:36:8100::/56')->assertSee('DUID of type 4')
        ->assertSee('New connections begin with it until');
    $this->get("/lease/exchange?scope=$scope->id&wants=both&asked=23")->assertOk()->assertSee('Several answer')
        ->assertDontSee('search</td>', false);
    $this->get("/lease/exchange?scope=$scope->id&wants=prefix&length=56&down[]={$w->servers['dh2']}")->assertOk()
        ->assertSee('is taken to be out of service')->assertSee('alone answers');
    $this->get("/lease/exchange?scope=$scope->id&duid=quay")->assertOk()->assertSee('a DUID in hexadecimal');
    $this->get("/lease/exchange?scope=$scope->id&iaid=x")->assertOk()->assertSee('the number of an association');
    $this->get("/lease/exchange?scope=$scope->id&length=200&wants=prefix")->assertOk()->assertSee('the length of a prefix');
    $this->post('/lease/exchange', ['scope' => $scope->id, 'duid' => '00:04:00:11'])->assertOk()
        ->assertSee('an exchange would end the lease of a real client');
    $this->get('/lease/options?family=6')->assertOk()->assertSee('Set an option of IPv6')->assertSee('82 longest pause');
    $this->actingAs($w->people['reader'])->post('/lease/exchange', ['scope' => $scope->id])->assertForbidden();
    $this->actingAs($w->bound())->get("/lease/scope/$scope->id")->assertNotFound();

    $objects = App\Api\Collections::object('leases', $lease->load('server'));
    expect(json_encode($objects))->toBeString()->and($objects['given'])->toBe('2001:db8:36:8100::/56')->and($objects['client'])
        ->toBe('00:04:00:11');
    $told = App\Api\Collections::object('scopes', $scope->load(['prefix', 'ranges', 'delegations', 'placements.server']));
    expect(json_encode($told))->toBeString()->and($told['delegations'][0])->toStartWith('2001:db8:36:8000::/53 as /56@')
        ->and($told['servers'])->toHaveCount(2);
});

it('says what is lost with a server of a scope that has no range', function (): void {
    $scope = ($this->make)(['ranges' => [], 'name' => 'Vessels alone']);
    $page = fn () => $this->actingAs($this->w->people['operator'])->get('/lease/coverage?filter="Vessels alone"')->assertOk();
    $page()->assertReads('without a range')->assertReads('its own pools delegate nothing new');
    $this->w->did(new ChangeScope($scope->id, delegations: []));
    $page()->assertReads('any server answers all of them');
    $this->w->did(new ChangeScope($scope->id, servers: [$this->w->servers['dh1']]));
    $page()->assertReads('nobody answers');
});

it('says which options the servers of a scope send differently', function (): void {
    $w = $this->w;
    $scope = ($this->make)();
    $differing = fn (): array => App\Queries\Coverage::differing(
        [$scope->refresh()->load(['prefix', 'placements.server', 'optionValues'])],
        new OptionLayers(new App\Queries\Inherited),
    );
    expect($differing())->toBe([]);
    $w->did(new SetOption(code: 31, value: '2001:db8::7b', layer: 'server', of: $w->servers['dh2'], family: '6'));
    expect($differing())->toBe([$scope->id => ['31 SNTP servers']]);
    $this->actingAs($w->people['operator'])->get('/lease/coverage?filter="Ticketing v6"')->assertOk()
        ->assertSee('not alike: 31 SNTP servers');
    $w->did(new SetOption($scope->id, 31, '2001:db8::7c'));
    expect($differing())->toBe([]);
});

it('counts the addresses of both families for reports, audits and notices', function (): void {
    $w = $this->w;
    $scope = ($this->make)();
    $whole = $w->carve('2001:db8:36:5::/64', ['name' => 'All of it', 'stage' => 'live']);
    $all = MakeScope::fromInput([
        'prefix' => $whole->id, 'ranges' => ['2001:db8:36:5::1-2001:db8:36:5:ffff:ffff:ffff:ffff'], 'servers' => [$w->servers['dh1']],
    ]);
    $w->did($all);
    $w->did(new App\Acts\Lease\KeepLeases($w->servers['dh1'], [
        ['address' => '2001:db8:36:8100::', 'length' => 56, 'client' => '00:04:00:11', 'state' => 'active', 'starts' => time(),
            'ends' => time() + 9000, 'scope' => $scope->id],
        ['address' => '2001:db8:36:1::1001', 'client' => '00:04:00:11', 'state' => 'active', 'starts' => time(), 'ends' => time() + 9000,
            'scope' => $scope->id],
    ]));
    $facts = App\Queries\Facts\Catalogue::of(App\Models\FactKind::Scope);
    $of = static fn (string $id): array => array_map(strval(...), array_values((array) Illuminate\Support\Facades\DB::selectOne(
        "SELECT {$facts['pool']->sql} AS a, {$facts['leases']->sql} AS b FROM scopes c WHERE c.id = ?",
        [$id],
    )));
    expect($of($scope->id))->toBe(['4096', '1'])->and($of($all->id))->toBe(['9007199254740992', '0'])->and($of($w->scope->id)[0])
        ->toBe('41');
});

it('is tried and shown from the console', function (): void {
    ($this->start)();
    $scope = ($this->make)();
    ($this->ship)('dh1');
    ($this->ship)('dh2');
    $run = static function (string $command, array $of): array {
        $status = Illuminate\Support\Facades\Artisan::call($command, $of + ['--json' => true]);

        return [$status, json_decode(Illuminate\Support\Facades\Artisan::output(), true)];
    };
    [$status, $shown] = $run('scope:show', ['scope' => '2001:db8:36:1::/64']);
    expect($status)->toBe(0)->and($shown['delegations'][0]['pool'])->toBe('2001:db8:36:8000::/53 as /56')
        ->and(array_column($shown['options'], 'name'))->toBe(['domain name servers', 'domain search']);
    [$status, $tried] = $run('exchange:try', [
        'scope' => $scope->name, '--wants' => 'both', '--iaid' => '7', '--send' => ($this->server)('dh1')->name,
    ]);
    expect($status)->toBe(0)->and($tried['findings'])->toBe([])->and(array_column($tried['servers'][0]['given'], 'kind'))
        ->toBe(['IA_NA', 'IA_PD']);
    expect($run('exchange:try', ['scope' => $scope->name, '--duid' => 'quay'])[0])->toBe(2);
    foreach (Invariants::all() as $sentence => $found) {
        expect($found['count'])->toBe(0, $sentence);
    }
});

it('is no option of both families at once', function (): void {
    $w = World::make();
    $net = $w->carve('2001:db8:5::/64', ['name' => 'Six', 'stage' => 'live']);
    $six = MakeScope::fromInput(['prefix' => $net->id, 'name' => 'Six', 'ranges' => ['2001:db8:5::10-2001:db8:5::99'],
        'servers' => [$w->servers['dh1']]]);
    $w->did($six);
    $both = ['code' => 42, 'value' => '192.0.2.9', 'scopes' => [$w->scope->id, $six->id]];
    expect($w->refusal(App\Acts\Lease\SetOption::class, $both))->toBe('two-families')
        ->and($w->refusal(App\Acts\Lease\SetOption::class, ['scopes' => [$w->scope->id]] + $both))->toBeNull();
});
