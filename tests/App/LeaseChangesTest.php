<?php

declare(strict_types=1);

use App\Acts\Directory\ChangeServer;
use App\Acts\Lease\RemoveScope;
use App\Live\LeaseReading;
use App\Models\Lease;
use App\Models\Server;
use App\Shipping\Shipping;
use HarborPost\Standins\Dhcp\BookV6;
use HarborPost\Standins\Dhcp\ChangeOrder;
use HarborPost\Standins\Dhcp\LeaseBook;
use HarborPost\Standins\Journal;
use Illuminate\Support\Facades\DB;
use Tests\Standins;
use Tests\World;

beforeEach(function (): void {
    config(['harbor.patience' => 1.0]);
    $this->w = World::make();
    $this->start = function (): Standins {
        $s = new Standins(['dh1' => 'dhcp', 'dh2' => 'dhcp']);
        foreach ($s->settings as $name => $own) {
            $this->w->did(new ChangeServer($this->w->servers[$name], '127.0.0.1:'.$own['port'], '127.0.0.1:'.$own['control'], 'secret'));
        }
        app(Shipping::class)->ship(null, ($this->server)());

        return $s;
    };
    $this->server = fn (): Server => Server::query()->findOrFail($this->w->servers['dh1']);
    $this->lease = fn (int $i, int $mac): array => [
        'address' => "192.0.2.$i", 'mac' => sprintf('02:00:5e:00:00:%02x', $mac), 'name' => "c$i", 'starts' => time() - 60,
        'ends' => time() + 3000, 'scope' => $this->w->scope->id,
    ];
    $this->read = fn (): array => array_diff_key(app(LeaseReading::class)->read(($this->server)()), ['refused' => 1]);
    $this->mark = fn (): object => DB::table('server_states')->where('server_id', $this->w->servers['dh1'])->first();
});

it('reads what changed since the last time, and all of them when that cannot be told', function (): void {
    $s = ($this->start)();
    $s->tell('dh1', 'grant', ['leases' => array_map(fn (int $i): array => ($this->lease)($i, $i), range(60, 70))]);
    // And what the proof of the scope left behind.
    expect(($this->read)())->toBe(['added' => 12, 'changed' => 0, 'same' => 0, 'gone' => 0]);
    $whole = ($this->mark)()->leases_whole_at;
    expect(($this->read)())->toBe(['added' => 0, 'changed' => 0, 'same' => 12, 'gone' => 0]);
    $s->tell('dh1', 'end', ['leases' => [['address' => '192.0.2.61', 'mac' => '02:00:5e:00:00:3d']]]);
    $s->tell('dh1', 'grant', ['leases' => [($this->lease)(80, 80)]]);
    $cursor = ($this->mark)()->leases_cursor;
    expect(($this->read)())->toBe(['added' => 1, 'changed' => 1, 'same' => 11, 'gone' => 0])
        ->and(($this->mark)()->leases_cursor)->not->toBe($cursor)->and(($this->mark)()->leases_whole_at)->toBe($whole);
    // What came by changes is what reading all of them gives.
    $columns = ['address', 'mac', 'state', 'scope_id', 'ends_at', 'gone_at'];
    $rows = fn (): array => Lease::query()->orderBy('address')->get($columns)->toArray();
    $told = $rows();
    DB::table('server_states')->update(['leases_cursor' => null]);
    expect(($this->read)())->toBe(['added' => 0, 'changed' => 0, 'same' => 13, 'gone' => 0])->and($rows())->toBe($told);
    // A reading that broke off is taken up where it began.
    $s->tell('dh1', 'grant', ['leases' => [($this->lease)(81, 81)]]);
    $before = ($this->mark)()->leases_cursor;
    $s->tell('dh1', 'mode', ['mode' => 'silent']);
    expect(fn () => ($this->read)())->toThrow(App\Links\Unanswered::class)->and(($this->mark)()->leases_cursor)->toBe($before);
    $s->tell('dh1', 'mode', ['mode' => 'normal']);
    expect(($this->read)()['added'])->toBe(1);
    // A day after all were read, they are again.
    DB::table('server_states')->update(['leases_whole_at' => now()->subHours(25)]);
    ($this->read)();
    expect(now()->diffInMinutes(($this->mark)()->leases_whole_at, true))->toBeLessThan(2.0);
});

it('reads all of them when other subnets are leased from there, so that each belongs to its scope', function (): void {
    $s = ($this->start)();
    $s->tell('dh1', 'grant', ['leases' => [($this->lease)(60, 60)]]);
    ($this->read)();
    $plan = ($this->mark)()->leases_plan;
    expect(Lease::query()->where('address', inet_pton('192.0.2.60'))->sole()->scope_id)->toBe($this->w->scope->id);
    $this->w->did(RemoveScope::fromInput(['scope' => $this->w->scope->id]));
    ($this->read)();
    expect(($this->mark)()->leases_plan)->not->toBe($plan)
        ->and(Lease::query()->where('address', inet_pton('192.0.2.60'))->sole()->scope_id)->toBeNull();
});

it('goes on by a cursor of its own process alone, page by page, and gives up beyond what is less work', function (): void {
    $order = new ChangeOrder;
    $start = $order->cursor();
    foreach (range(1, 2500) as $i) {
        $order->note('10.0.'.intdiv($i, 256).'.'.$i % 256);
    }
    $order->note('10.0.0.1');
    $seen = [];
    $cursor = $start;
    do {
        $page = $order->since($cursor, 1000);
        $seen = [...$seen, ...$page['addresses']];
        $cursor = $page['cursor'];
    } while ($page['more']);
    // Each once, what changed last comes last.
    expect($seen)->toHaveCount(2500)->and(array_unique($seen))->toHaveCount(2500)->and(end($seen))->toBe('10.0.0.1')
        ->and($order->since($cursor, 1000))->toBe(['addresses' => [], 'more' => false, 'cursor' => $cursor])
        ->and((new ChangeOrder)->since($cursor, 1000))->toBeNull()->and($order->since('', 10))->toBeNull()
        ->and($order->since(explode(':', $cursor)[0].':99999', 10))->toBeNull()->and($order->since('x:1e3', 10))->toBeNull();
    foreach (range(1, 20_001) as $i) {
        $order->note('10.1.'.intdiv($i, 256).'.'.$i % 256);
    }
    expect($order->since($cursor, 1000))->toBeNull();
});

it('tells of leases that its partner has now as gone, and of prefixes by their address', function (): void {
    $order = new ChangeOrder;
    $folder = sys_get_temp_dir().'/changes-'.bin2hex(random_bytes(4));
    $book = new LeaseBook(new Journal("$folder.4"), $order);
    $six = new BookV6(new Journal("$folder.6"), $order);
    $start = $order->cursor();
    $book->write('10.0.0.9', 'aa', '02:00:5e:00:00:09', '', LeaseBook::HELD, 1, 2, 's');
    $six->write([
        'address' => '2001:db8:1::', 'length' => 56, 'key' => 'k', 'client' => '00:01:00:01:00:00:00:01:02:00:5e:00:00:01', 'iaid' => 1,
        'name' => '', 'state' => 'active', 'starts' => 1, 'ends' => 2, 'preferred' => 2, 'scope' => 's',
    ]);
    expect($order->since($start, 10)['addresses'])->toBe(['10.0.0.9', '2001:db8:1::'])
        ->and(array_column($six->from('2001:db8:1::'), 'length'))->toBe([56])->and($six->from('2001:db8:2::'))->toBe([])
        ->and($book->page('', 10))->toBe([]);
    array_map(unlink(...), ["$folder.4", "$folder.6"]);
});
