<?php

declare(strict_types=1);

use HarborPost\Core\Bytes\MalformedBytes;
use HarborPost\Core\Dhcp\V6\Association;
use HarborPost\Core\Dhcp\V6\AssociationKind;
use HarborPost\Core\Dhcp\V6\Code;
use HarborPost\Core\Dhcp\V6\Duid;
use HarborPost\Core\Dhcp\V6\Leased;
use HarborPost\Core\Dhcp\V6\Message;
use HarborPost\Core\Dhcp\V6\MessageType;
use HarborPost\Core\Dhcp\V6\OptionList;
use HarborPost\Core\Dhcp\V6\OptionReader;
use HarborPost\Core\Dhcp\V6\Relayed;
use HarborPost\Core\Dhcp\V6\StatusCode;
use HarborPost\Core\Exchange\V6\Answer;
use HarborPost\Core\Exchange\V6\Delegation;
use HarborPost\Core\Exchange\V6\Grant;
use HarborPost\Core\Exchange\V6\Held;
use HarborPost\Core\Exchange\V6\Reserved;
use HarborPost\Core\Exchange\V6\Responder;
use HarborPost\Core\Exchange\V6\Terms;
use HarborPost\Core\Net\Address;
use HarborPost\Core\Net\AddressRange;
use HarborPost\Core\Net\NotUnderstood;
use HarborPost\Core\Net\Prefix;

/** A server of one link with its memory, and clients that write to it. */
final class V6World implements Held
{
    public int $now = 1_800_000_000;

    public Duid $self;

    /** @var array<string, array{grant: Grant, ends: int}> */
    public array $leases = [];

    public function __construct(public Terms $terms)
    {
        $this->self = Duid::ofName('server');
    }

    /**
     * @param  list<string>  $ranges
     * @param  list<string>  $delegations
     * @param  list<Reserved>  $reserved
     * @param  array<int, string>  $options
     * @param  list<string>  $out
     */
    public static function of(
        array $ranges = ['2001:db8:36:1::100-2001:db8:36:1::103'],
        array $delegations = [],
        array $reserved = [],
        array $options = [],
        array $out = [],
        bool $rapid = false,
        int $preferred = 1000,
        int $valid = 2000,
    ): self {
        return new self(new Terms(
            Prefix::parse('2001:db8:36:1::/64'), array_map(AddressRange::parse(...), $ranges), array_map(AddressRange::parse(...), $out),
            array_map(Delegation::parse(...), $delegations), $reserved, $options, $preferred, $valid, $rapid,
        ));
    }

    public function holder(Prefix $net, int $now): ?string
    {
        foreach ($this->leases as $text => $lease) {
            if (Prefix::parse($text)->overlaps($net) && $lease['ends'] > $now && $lease['grant']->state !== 'released') {
                return $lease['grant']->state === 'declined' ? '' : $lease['grant']->key;
            }
        }

        return null;
    }

    public function current(string $key, int $now): array
    {
        return array_values(array_map(
            static fn (array $l): Prefix => $l['grant']->net,
            array_filter($this->leases, static fn (array $l): bool => $l['grant']->key === $key && $l['grant']->state === 'active'
                && $l['ends'] > $now),
        ));
    }

    public function last(string $key): ?Prefix
    {
        $own = array_filter($this->leases, static fn (array $l): bool => $l['grant']->key === $key);

        return $own === [] ? null : end($own)['grant']->net;
    }

    /** @param  list<Association>  $wishes */
    public function send(
        MessageType $type,
        string $client,
        array $wishes = [],
        bool $named = false,
        ?array $asked = null,
        array $more = [],
    ): Answer {
        $options = [[Code::CLIENT_ID, Duid::ofName($client)->bytes], ...$more];
        $named && $options[] = [Code::SERVER_ID, $this->self->bytes];
        $asked === null || $options[] = [Code::REQUESTED, implode('', array_map(static fn (int $c): string => pack('n', $c), $asked))];
        foreach ($wishes as $wish) {
            $options[] = [$wish->kind->value, $wish->wire()];
        }
        // By the wire, as it would come.
        $message = Message::fromWire((new Message($type, 0x010203, new OptionList($options)))->wire());
        $answer = (new Responder($this->self, $this->terms, $this, $this->now))->answer($message);
        foreach ($answer->grants as $grant) {
            unset($this->leases[(string) $grant->net]);
            $this->leases[(string) $grant->net] = ['grant' => $grant, 'ends' => $this->now + $grant->valid];
        }

        return $answer;
    }

    /** @return list<Association> */
    public function parts(Answer $answer): array
    {
        return $answer->message === null ? [] : Message::fromWire($answer->message->wire())->associations();
    }

    /** SOLICIT, ADVERTISE, REQUEST, REPLY: what was given, or null. */
    public function lease(string $client, AssociationKind $kind = AssociationKind::Address, int $iaid = 1): ?Leased
    {
        $offer = $this->parts($this->send(MessageType::Solicit, $client, [new Association($kind, $iaid)]))[0];
        if ($offer->leases === []) {
            return null;
        }

        return $this->parts($this->send(MessageType::Request, $client, [$offer], named: true))[0]->leases[0] ?? null;
    }
}

function wishes(string ...$addresses): Association
{
    return new Association(AssociationKind::Address, 1, array_map(
        static fn (string $a): Leased => Leased::address(Address::parse($a)),
        array_values($addresses),
    ));
}

it('offers, gives with half and four fifths, and writes down only what it gave', function (): void {
    $world = V6World::of(options: [23 => Address::parse('2001:db8::35')->bytes, 24 => "\0"]);
    $advertise = $world->send(MessageType::Solicit, 'a', [new Association(AssociationKind::Address, 7)], asked: [23]);
    expect($advertise->message?->type)->toBe(MessageType::Advertise)->and($advertise->grants)->toBe([])
        ->and($advertise->message->transaction)->toBe(0x010203)->and($advertise->message->options->has(23))->toBeTrue()
        ->and($advertise->message->options->has(24))->toBeFalse()->and($advertise->message->server()?->equals($world->self))->toBeTrue();
    [$part] = $world->parts($advertise);
    expect([$part->iaid, $part->t1, $part->t2, $part->leases[0]->preferred, $part->leases[0]->valid])->toBe([7, 500, 800, 1000, 2000]);
    $reply = $world->send(MessageType::Request, 'a', [$part], named: true);
    expect($reply->message?->type)->toBe(MessageType::Reply)->and($reply->grants[0]->state)->toBe('active')
        ->and($reply->grants[0]->net->equals($part->leases[0]->net))->toBeTrue()
        // Who does not say what it wants is told all there is.
        ->and($reply->message->options->has(24))->toBeTrue();
});

it('answers in one step only where both want it', function (): void {
    $wish = [new Association(AssociationKind::Address, 1)];
    $rapid = V6World::of(rapid: true);
    $answer = $rapid->send(MessageType::Solicit, 'a', $wish, more: [[Code::RAPID_COMMIT, '']]);
    expect($answer->message?->type)->toBe(MessageType::Reply)->and($answer->message->options->has(Code::RAPID_COMMIT))->toBeTrue()
        ->and(count($answer->grants))->toBe(1)
        ->and($rapid->send(MessageType::Solicit, 'b', $wish)->message?->type)->toBe(MessageType::Advertise)
        ->and(V6World::of()->send(MessageType::Solicit, 'a', $wish, more: [[Code::RAPID_COMMIT, '']])->message?->type)
        ->toBe(MessageType::Advertise);
});

it('gives what is reserved, then what the client has, had and asks for', function (): void {
    $reserved = new Reserved(Duid::ofName('r'), null, Address::parse('2001:db8:36:1::101')->in(128));
    $world = V6World::of(reserved: [$reserved]);
    expect($world->lease('r')?->words())->toBe('2001:db8:36:1::101');
    $wish = wishes('2001:db8:36:1::102');
    $part = $world->parts($world->send(MessageType::Solicit, 'b', [$wish]))[0];
    expect($part->leases[0]->words())->toBe('2001:db8:36:1::102');
    $world->send(MessageType::Request, 'b', [$part], named: true);
    expect($world->lease('b')?->words())->toBe('2001:db8:36:1::102');
    $world->now += 3000;
    expect($world->lease('b')?->words())->toBe('2001:db8:36:1::102')
        // What is reserved for another is not given, though it is asked for and free.
        ->and($world->parts($world->send(MessageType::Solicit, 'c', [wishes('2001:db8:36:1::101')]))[0]->leases[0]->words())
        ->not->toBe('2001:db8:36:1::101');
});

it('reserves for one number of a client, before what it reserves for any', function (): void {
    $any = new Reserved(Duid::ofName('r'), null, Address::parse('2001:db8:36:1::a')->in(128));
    $seven = new Reserved(Duid::ofName('r'), 7, Address::parse('2001:db8:36:1::b')->in(128), [23 => 'x']);
    $world = V6World::of(reserved: [$any, $seven]);
    expect($world->lease('r', iaid: 7)?->words())->toBe('2001:db8:36:1::b')->and($world->lease('r', iaid: 1)?->words())
        ->toBe('2001:db8:36:1::a')
        // Another number of the same client finds it taken, and is given one of the range.
        ->and($world->lease('r', iaid: 2)?->words())->toStartWith('2001:db8:36:1::10');
});

it('gives the last one of a pool and then says that none is left', function (): void {
    $world = V6World::of(out: ['2001:db8:36:1::102']);
    $given = array_map(fn (int $i): ?string => $world->lease("client $i")?->words(), range(1, 3));
    sort($given);
    expect($given)->toBe(['2001:db8:36:1::100', '2001:db8:36:1::101', '2001:db8:36:1::103'])->and($world->lease('late'))->toBeNull();
    $answer = $world->send(MessageType::Solicit, 'late', [new Association(AssociationKind::Address, 1)]);
    expect($world->parts($answer)[0]->status)->toBe(StatusCode::NoAddrsAvail)->and($answer->message?->type)->toBe(MessageType::Advertise);
});

it('delegates prefixes of the length that is asked for, and never one inside another', function (): void {
    $world = V6World::of(delegations: ['2001:db8:40::/52 as /56', '2001:db8:41::/58 as /60']);
    $wish = new Association(AssociationKind::Prefix, 1, [new Leased(Prefix::parse('::/60'))]);
    $part = $world->parts($world->send(MessageType::Solicit, 'vessel', [$wish]))[0];
    expect($part->leases[0]->net->length)->toBe(60)->and($part->kind)->toBe(AssociationKind::Prefix);
    $all = [];
    for ($i = 0; $i < 20; $i++) {
        $all[] = $world->lease("vessel $i", AssociationKind::Prefix)?->net;
    }
    $all = array_values(array_filter($all));
    // Sixteen /56 and four /60.
    expect(count($all))->toBe(20)->and($world->lease('vessel 21', AssociationKind::Prefix))->toBeNull();
    foreach ($all as $i => $one) {
        foreach (array_slice($all, $i + 1) as $other) {
            expect($one->overlaps($other))->toBeFalse();
        }
    }
});

it('holds back parts of a pool whose length was changed while larger ones are out', function (): void {
    $world = V6World::of(delegations: ['2001:db8:40::/55 as /56']);
    $world->lease('one', AssociationKind::Prefix);
    $world->lease('two', AssociationKind::Prefix);
    $world->terms = V6World::of(delegations: ['2001:db8:40::/55 as /60'])->terms;
    expect($world->lease('three', AssociationKind::Prefix))->toBeNull();
});

it('renews what is held, and says what it does not know or what is of another link', function (): void {
    $world = V6World::of();
    $own = $world->lease('a')?->words() ?? '';
    $world->now += 600;
    $renewed = $world->send(MessageType::Renew, 'a', [wishes($own)], named: true);
    expect($world->parts($renewed)[0]->leases[0]->valid)->toBe(2000)->and($world->leases["$own/128"]['ends'])->toBe($world->now + 2000)
        ->and($world->parts($world->send(MessageType::Renew, 'b', [wishes('2001:db8:36:1::103')], named: true))[0]->status)
        ->toBe(StatusCode::NoBinding);
    $off = $world->parts($world->send(MessageType::Renew, 'b', [wishes('2001:db8:99::1')], named: true))[0]->leases[0];
    expect([$off->preferred, $off->valid])->toBe([0, 0]);
    // A second address that the client thinks to be its own is over.
    $two = $world->parts($world->send(MessageType::Renew, 'a', [wishes($own, '2001:db8:36:1::fff')], named: true))[0];
    expect($two->leases[1]->words())->toBe('2001:db8:36:1::fff')->and($two->leases[1]->valid)->toBe(0);
});

it('renews what is reserved outside of every range, for its client alone', function (): void {
    $world = V6World::of(reserved: [new Reserved(Duid::ofName('r'), null, Address::parse('2001:db8:36:1::a')->in(128))]);
    $world->lease('r');
    $part = $world->parts($world->send(MessageType::Renew, 'r', [wishes('2001:db8:36:1::a')], named: true))[0];
    expect($part->leases[0]->valid)->toBe(2000)->and($part->status)->toBeNull();
    // Once it is reserved no more, it is not renewed.
    $world->terms = V6World::of()->terms;
    expect($world->parts($world->send(MessageType::Renew, 'r', [wishes('2001:db8:36:1::a')], named: true))[0]->status)
        ->toBe(StatusCode::NoBinding);
});

it('leaves a client that asks everybody to a server that knows it', function (): void {
    $world = V6World::of();
    expect($world->send(MessageType::Rebind, 'b', [wishes('2001:db8:36:1::100')])->message)->toBeNull()
        ->and($world->parts($world->send(MessageType::Rebind, 'b', [wishes('2001:db8:99::1')]))[0]->leases[0]->valid)->toBe(0);
    $own = $world->lease('a')?->words() ?? '';
    expect($world->parts($world->send(MessageType::Rebind, 'a', [wishes($own)]))[0]->leases[0]->valid)->toBe(2000);
});

it('confirms by the link alone', function (): void {
    $world = V6World::of();
    $status = static fn (Answer $a): ?StatusCode => StatusCode::of($a->message?->options->first(Code::STATUS));
    expect($status($world->send(MessageType::Confirm, 'a', [wishes('2001:db8:36:1::9')])))->toBe(StatusCode::Success)
        ->and($status($world->send(MessageType::Confirm, 'a', [wishes('2001:db8:36:2::9')])))->toBe(StatusCode::NotOnLink)
        ->and($world->send(MessageType::Confirm, 'a', [new Association(AssociationKind::Address, 1)])->message)->toBeNull();
});

it('takes back what its client gives back, and leaves alone what a client finds in use', function (): void {
    $world = V6World::of(['2001:db8:36:1::100']);
    $world->lease('a');
    $not = $world->send(MessageType::Release, 'b', [wishes('2001:db8:36:1::100')], named: true);
    expect($world->parts($not)[0]->status)->toBe(StatusCode::NoBinding)->and($not->grants)->toBe([])
        ->and($world->lease('b'))->toBeNull();
    $world->send(MessageType::Release, 'a', [wishes('2001:db8:36:1::100')], named: true);
    expect($world->lease('b')?->words())->toBe('2001:db8:36:1::100');
    $world->send(MessageType::Decline, 'b', [wishes('2001:db8:36:1::100')], named: true);
    expect($world->lease('b'))->toBeNull()->and($world->lease('c'))->toBeNull();
    $world->now += Responder::DECLINED + 1;
    expect($world->lease('c')?->words())->toBe('2001:db8:36:1::100');
});

it('tells options alone to who asks for these, and nothing to a question that must not be answered', function (): void {
    $world = V6World::of([], options: [23 => 'dns']);
    $reply = $world->send(MessageType::InformationRequest, 'a', asked: [23]);
    expect($reply->message?->type)->toBe(MessageType::Reply)->and($reply->message->options->first(23))->toBe('dns')
        ->and($world->send(MessageType::InformationRequest, 'a', [wishes('2001:db8:36:1::1')])->message)->toBeNull()
        ->and($world->send(MessageType::Request, 'a', [wishes('2001:db8:36:1::1')])->message)->toBeNull()
        ->and($world->send(MessageType::Reply, 'a')->message)->toBeNull()
        ->and($world->parts($world->send(MessageType::Solicit, 'a', [new Association(AssociationKind::Address, 1)]))[0]->status)
        ->toBe(StatusCode::NoAddrsAvail)
        ->and($world->parts($world->send(MessageType::Solicit, 'a', [new Association(AssociationKind::Temporary, 1)]))[0]->status)
        ->toBe(StatusCode::NoAddrsAvail);
});

it('says in a reply that an address of another link is not of this one', function (): void {
    $world = V6World::of();
    $answer = $world->send(MessageType::Request, 'a', [wishes('2001:db8:99::1')], named: true);
    expect($world->parts($answer)[0]->status)->toBe(StatusCode::NotOnLink)->and($answer->grants)->toBe([])
        // In a SOLICIT it is a wish that cannot be met.
        ->and($world->parts($world->send(MessageType::Solicit, 'a', [wishes('2001:db8:99::1')]))[0]->leases)->toHaveCount(1);
});

it('passes over interface identifiers that nobody may have', function (): void {
    // RFC 5453: the subnet-router anycast address.
    $world = V6World::of(['2001:db8:36:1::-2001:db8:36:1::1']);
    expect($world->lease('a')?->words())->toBe('2001:db8:36:1::1')->and($world->lease('b'))->toBeNull();
});

it('gives a life without an end as one', function (): void {
    $world = V6World::of(preferred: Leased::INFINITE, valid: Leased::INFINITE);
    $part = $world->parts($world->send(MessageType::Solicit, 'a', [new Association(AssociationKind::Address, 1)]))[0];
    expect([$part->t1, $part->leases[0]->valid])->toBe([Leased::INFINITE, Leased::INFINITE]);
});

it('never gives one address or prefix to two, and never takes one away, over random histories', function (): void {
    mt_srand(20261129);
    for ($history = 0; $history < 120; $history++) {
        $world = V6World::of(['2001:db8:36:1::100-2001:db8:36:1::107'], ['2001:db8:40::/57 as /60'], valid: 400, preferred: 300);
        /** @var array<string, array{string, int}> $has key → what the client was told it has, until */
        $has = [];
        for ($step = 0; $step < 60; $step++) {
            $world->now += mt_rand(0, 60);
            $client = 'c'.mt_rand(1, 12);
            $kind = mt_rand(0, 2) === 0 ? AssociationKind::Prefix : AssociationKind::Address;
            $key = "$client {$kind->value}";
            $own = isset($has[$key]) && $has[$key][1] > $world->now ? $has[$key][0] : null;
            $act = mt_rand(0, 9);
            if ($own === null || $act < 3) {
                $lease = $world->lease($client, $kind);
                expect($own === null || $lease !== null)->toBeTrue();
                $lease === null || $has[$key] = [(string) $lease->net, $world->now + $lease->valid];
            } elseif ($act < 7) {
                $wish = new Association($kind, 1, [new Leased(Prefix::parse($own))]);
                $part = $world->parts($world->send($act < 5 ? MessageType::Renew : MessageType::Rebind, $client, [$wish],
                    named: $act < 5))[0];
                expect((string) $part->leases[0]->net)->toBe($own)->and($part->leases[0]->valid)->toBe(400);
                $has[$key] = [$own, $world->now + 400];
            } else {
                $world->send(MessageType::Release, $client, [new Association($kind, 1, [new Leased(Prefix::parse($own))])], named: true);
                unset($has[$key]);
            }
            $live = array_filter($has, fn (array $h): bool => $h[1] > $world->now);
            expect(count(array_unique(array_column($live, 0))))->toBe(count($live));
        }
    }
});

it('reads a pool with the length of its parts, and says what is wrong with one', function (): void {
    $one = Delegation::parse('2001:db8:40::/44 as /56');
    expect((string) $one)->toBe('2001:db8:40::/44 as /56')->and((string) $one->count())->toBe('4096')
        ->and((string) $one->part(\Brick\Math\BigInteger::of(4095)))->toBe('2001:db8:4f:ff00::/56')
        ->and((string) Delegation::parse('2001:db8:40::/60 AS 60')->count())->toBe('1');
    foreach (['2001:db8:40::/56 as /52', '2001:db8::/32 as /65', '192.0.2.0/24 as /28', '2001:db8:40::/44', '',
        '2001:db8:40::1/44 as /56'] as $no) {
        expect(fn () => Delegation::parse($no))->toThrow(NotUnderstood::class);
    }
});

it('takes no packet, however broken, for more than a broken packet', function (): void {
    mt_srand(546);
    $world = V6World::of(delegations: ['2001:db8:40::/52 as /56'], options: [23 => str_repeat("\1", 16)]);
    $packets = array_map(
        static fn (string $line): string => (string) hex2bin(explode("\t", $line)[0]),
        array_slice(file(dirname(__DIR__, 2).'/fixtures/packets6.tsv', FILE_IGNORE_NEW_LINES) ?: [], 1),
    );
    $read = $broken = 0;
    for ($i = 0; $i < 6000; $i++) {
        $bytes = $packets[mt_rand(0, count($packets) - 1)];
        for ($n = mt_rand(1, 4); $n > 0; $n--) {
            $at = mt_rand(0, strlen($bytes) - 1);
            $bytes = match (mt_rand(0, 2)) {
                0 => substr_replace($bytes, chr(mt_rand(0, 255)), $at, 1),
                1 => substr($bytes, 0, max(1, $at)),
                default => substr_replace($bytes, random_bytes(mt_rand(1, 9)), $at, 0),
            };
        }
        foreach (OptionReader::read($bytes) as $line) {
            expect($line['offset'])->toBeLessThanOrEqual(strlen($bytes));
        }
        try {
            $message = Relayed::fromWire($bytes)->message;
            $read++;
            $answer = (new Responder($world->self, $world->terms, $world, $world->now))->answer($message);
            // Whatever it was asked, what it answers can be read.
            $answer->message === null || Message::fromWire($answer->message->wire())->associations();
        } catch (MalformedBytes) {
            $broken++;
        }
    }
    expect($read)->toBeGreaterThan(500)->and($broken)->toBeGreaterThan(500);
});
