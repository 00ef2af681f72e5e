<?php

declare(strict_types=1);

use App\Links\BulkLeases;
use App\Links\Datagram;
use App\Links\Unanswered;
use HarborPost\Core\Dhcp\LeaseQuery\LeaseQuery;
use HarborPost\Core\Dhcp\V4\MessageType;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\MacAddress;
use Tests\Standins;
use Tests\TestCase;

uses(TestCase::class);

beforeEach(function (): void {
    $this->s = new Standins(['dh1' => 'dhcp']);
    $this->s->tell('dh1', 'put', ['scope' => [
        'id' => 's1', 'name' => 'x', 'subnet' => '10.1.0.0/16', 'ranges' => ['10.1.0.10-10.1.20.250'], 'exclusions' => [],
        'lease_time' => 3600, 'options' => [], 'reservations' => [],
    ]]);
    $this->one = fn (int $i, ?int $mac = null): array => [
        'scope' => 's1', 'address' => '10.1.'.intdiv($i, 200).'.'.(10 + $i % 200), 'name' => "till-$i", 'starts' => time() - 60 - $i,
        'mac' => sprintf('02:00:5e:01:%02x:%02x', ($mac ?? $i) >> 8, ($mac ?? $i) & 255), 'ends' => time() + 1800,
    ];
    $this->grant = fn (array $leases) => $this->s->tell('dh1', 'grant', ['leases' => $leases]);
    $this->ask = function (Address|MacAddress|string $what): LeaseQuery {
        $asked = LeaseQuery::of(random_int(1, 0xFFFFFFFF), $what, Address::parse('127.0.0.1'));

        return (new Datagram('dh1', $this->s->endpoint('dh1'), 1.0))->ask($asked->wire(), LeaseQuery::fromWire(...))[0];
    };
    $this->all = fn (int $size = 1000): array => iterator_to_array(
        (new BulkLeases('dh1', $this->s->endpoint('dh1'), 2.0))->pages($size), false,
    );
});

it('tells one lease by a datagram, by each thing that can be asked by (RFC 4388 §6.4)', function (): void {
    ($this->grant)([($this->one)(1), ($this->one)(2), ($this->one)(258), ($this->one)(300, mac: 2)]);
    $one = ($this->ask)(Address::parse('10.1.0.11'));
    expect($one->type)->toBe(MessageType::LeaseActive)->and($one->lease(time()))->toMatchArray([
        'address' => '10.1.0.11', 'mac' => '02:00:5e:01:00:01', 'client' => '0102005e010001', 'name' => 'till-1', 'state' => 'active',
    ]);
    expect((string) ($this->ask)(MacAddress::parse('02:00:5e:01:01:02'))->address)->toBe('10.1.1.68');
    // One identifier, two addresses: the others stand beside the one that was heard last.
    $two = ($this->ask)("\x01\x02\x00\x5e\x01\x00\x02");
    expect((string) $two->address)->toBe('10.1.0.12')->and($two->type)->toBe(MessageType::LeaseActive)
        ->and((string) Address::fromBytes($two->options[LeaseQuery::ASSOCIATED]))->toBe('10.1.1.110');
    expect(($this->ask)(Address::parse('10.1.0.77'))->type)->toBe(MessageType::LeaseUnassigned)
        ->and(($this->ask)(Address::parse('203.0.113.7'))->type)->toBe(MessageType::LeaseUnknown)
        ->and(($this->ask)(MacAddress::parse('02:00:00:00:00:00'))->type)->toBe(MessageType::LeaseUnknown);
});

it('tells all leases over one connection, page by page, and says that it has told them all (RFC 6926)', function (): void {
    expect(($this->all)())->toBe([[]]);
    ($this->grant)(array_map(fn (int $i): array => ($this->one)($i), range(0, 1202)));
    $pages = ($this->all)(500);
    expect(array_map(count(...), $pages))->toBe([500, 500, 203]);
    $addresses = array_column(array_merge(...$pages), 'address');
    expect(count(array_unique($addresses)))->toBe(1203);
    // The pair's line and the question about leases share the port: each is told from the other.
    expect(($this->all)(2000)[0])->toHaveCount(1203);
});

it('tells nothing where it may not, and a cut answer is none', function (): void {
    ($this->grant)([($this->one)(1)]);
    $this->s->tell('dh1', 'mode', ['mode' => 'refusing']);
    expect(fn () => ($this->all)())->toThrow(Unanswered::class, 'it is not allowed to ask');
    $this->s->tell('dh1', 'mode', ['mode' => 'silent']);
    expect(fn () => ($this->all)())->toThrow(Unanswered::class);
    // A server that closes midway, one that says another transaction, and one that says nonsense.
    $say = function (string $bytes): void {
        $listens = stream_socket_server('tcp://127.0.0.1:0', $code, $why);
        $child = pcntl_fork();
        if ($child === 0) {
            $c = stream_socket_accept($listens);
            $asked = fread($c, 4096);
            fwrite($c, str_replace('XXXX', substr($asked, 6, 4), $bytes));
            fclose($c);
            posix_kill(getmypid(), SIGKILL);
        }
        try {
            iterator_to_array((new BulkLeases('other', (string) stream_socket_get_name($listens, false), 2.0))->pages(10), false);
        } finally {
            pcntl_waitpid($child, $status);
        }
    };
    $answer = LeaseQuery::ofAll(0x58585858)->answered(
        MessageType::LeaseActive, Address::parse('10.1.0.11'), null, '', '', null, 1, 2, 1,
    )->framed();
    expect(fn () => $say($answer))->toThrow(Unanswered::class, 'before its answer was whole')
        ->and(fn () => $say(substr($answer, 0, 60)))->toThrow(Unanswered::class, 'before its answer was whole')
        ->and(fn () => $say(str_replace('XXXX', "\0\0\0\1", $answer)))->toThrow(Unanswered::class, 'was asked')
        ->and(fn () => $say("\0\3abc"))->toThrow(Unanswered::class, 'unreadable');
});
