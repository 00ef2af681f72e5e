<?php

declare(strict_types=1);

use App\Acts\Directory\MakeToken;
use App\Acts\Directory\RevokeToken;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Acts\Watch\KeepNoticeRule;
use App\Acts\Watch\TakeNotices;
use App\Domain\Plan\Counter;
use App\Domain\Watch\NoticeLook;
use App\Models\Notice;
use App\Models\NoticeKind;
use App\Models\NoticeRule;
use App\Models\Person;
use App\Models\Token;
use App\Queries\Conditions;
use App\Queries\Due;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    $this->w = World::make();
    $this->silent = fn (?string $problem) => DB::table('server_states')->updateOrInsert(
        ['server_id' => $this->w->servers['ns1']],
        ['problem' => $problem, 'problem_since' => now()],
    );
    $this->open = fn (string $kind): array => Notice::open()->where('kind', $kind)->pluck('title')->all();
});

it('tells of what holds long enough, and takes it back when it is over', function (): void {
    ($this->silent)('it does not answer');
    NoticeLook::now();
    expect(($this->open)('silent'))->toBe([]);
    $this->travel(11)->minutes();
    NoticeLook::now();
    NoticeLook::now();
    expect(($this->open)('silent'))->toHaveCount(1);
    ($this->silent)(null);
    NoticeLook::now();
    expect(($this->open)('silent'))->toBe([])->and(Notice::query()->where('kind', 'silent')->sole()->over_at)->not->toBeNull();
    // It may come again, as a notice of its own.
    ($this->silent)('it does not answer');
    NoticeLook::now();
    $this->travel(11)->minutes();
    NoticeLook::now();
    expect(Notice::query()->where('kind', 'silent')->count())->toBe(2);
});

it('says one thing of a server that is away, and not what follows from it', function (): void {
    ($this->silent)('it does not answer');
    // The world places zones on servers that nothing was shipped to.
    DB::table('zones')->where('id', $this->w->zone->id)->update(['serial' => 5]);
    NoticeLook::now();
    $this->travel(40)->minutes();
    NoticeLook::now();
    $behind = Notice::open()->where('kind', 'behind')->pluck('link')->all();
    expect(($this->open)('silent'))->toHaveCount(1)
        ->and($behind)->toBe(['/ship/server/'.$this->w->servers['ns2']]);
});

it('does not sway with a figure that sways around its threshold', function (): void {
    $w = $this->w;
    $small = $w->carve('192.0.2.128/28', ['name' => 'Small', 'stage' => 'live']);
    $w->did(new ChangePrefix([$small->id], gateway: '192.0.2.129'));
    foreach (range(1, 12) as $i) {
        $w->did(PlaceHost::fromInput(['prefix' => $small->id, 'name' => "h$i"]));
    }
    Counter::fold();
    $w->did(new KeepNoticeRule('subnet', threshold: 90, level: 'error'));
    NoticeLook::now();
    expect(($this->open)('subnet'))->toBe(['192.0.2.128/28 is 93 % full']);
    // A little below is still the same; well below is over.
    $w->did(new KeepNoticeRule('subnet', threshold: 95, level: 'error'));
    NoticeLook::now();
    expect(($this->open)('subnet'))->toHaveCount(1);
    $w->did(new KeepNoticeRule('subnet', threshold: 99, level: 'error'));
    NoticeLook::now();
    expect(($this->open)('subnet'))->toBe([]);
});

it('calls until somebody looks after it, or it is left quiet', function (): void {
    $w = $this->w;
    ($this->silent)('gone');
    NoticeLook::now();
    $this->travel(11)->minutes();
    NoticeLook::now();
    $notice = Notice::open()->where('kind', 'silent')->sole();
    expect(Notice::callingFor($w->people['operator']))->toBe(1)->and(Notice::callingFor($w->people['reader']))->toBe(0)
        ->and(Notice::callingFor($w->bound()))->toBe(0);
    $w->did(new TakeNotices([$notice->id], 8), $w->people['operator']);
    expect(Notice::callingFor($w->people['operator']))->toBe(0);
    $this->travel(9)->hours();
    expect(Notice::callingFor($w->people['operator']))->toBe(1);
    $w->did(new KeepNoticeRule('silent', minutes: 10, level: 'error', people: [$w->people['planner']->id]));
    expect(Notice::callingFor($w->people['operator']))->toBe(0)->and(Notice::callingFor($w->people['planner']))->toBe(1);
    $w->did(new TakeNotices([$notice->id]), $w->people['planner']);
    expect($notice->refresh()->taken_by)->toBe($w->people['planner']->id)->and(Notice::callingFor($w->people['planner']))->toBe(0);
    $page = $this->actingAs($w->people['operator'])->get('/watch/notices')->assertOk();
    $page->assertReads('cannot be read')->assertReads($w->people['planner']->name);
    expect($w->refusal(TakeNotices::class, ['notices' => []]))->not->toBeNull()
        ->and($w->refusal(KeepNoticeRule::class, ['kind' => 'subnet', 'threshold' => '120']))->toBe('bad-threshold');
});

it('looks for every kind, and a kind that is off is not told of', function (NoticeKind $kind): void {
    expect(iterator_to_array(Conditions::of(NoticeRule::of($kind)), false))->toBeArray()->and($kind->title())->not->toBe('');
    ($this->silent)('gone');
    $this->w->did(new KeepNoticeRule($kind->value, threshold: 50, off: true));
    NoticeLook::now();
    expect(Notice::query()->where('kind', $kind->value)->count())->toBe(0);
})->with(NoticeKind::cases());

it('keeps a storm of ten thousand in sets', function (): void {
    $now = now()->format('Y-m-d H:i:s');
    $server = $this->w->servers['ns2'];
    $zones = array_map(fn (int $i): array => [
        'id' => (string) Illuminate\Support\Str::ulid(), 'view_id' => $this->w
            ->view, 'name' => "z$i.storm.example.", 'primary_server' => 'a.',
        'mailbox' => 'a.', 'serial' => 5, 'refresh' => 1, 'retry' => 1, 'expire' => 1, 'negative_ttl' => 1, 'default_ttl' => 1,
    ], range(1, 3000));
    foreach (array_chunk($zones, 500) as $part) {
        DB::table('zones')->insert($part);
        DB::table('zone_servers')->insert(array_map(static fn (array $z): array => [
            'id' => (string) Illuminate\Support\Str::ulid(), 'zone_id' => $z['id'], 'server_id' => $server, 'part' => 'primary',
        ], $part));
    }
    DB::enableQueryLog();
    NoticeLook::now();
    expect(count(DB::getQueryLog()))->toBeLessThan(80)->and(Notice::query()->where('kind', 'behind')->count())
        ->toBeGreaterThanOrEqual(3000);
    DB::disableQueryLog();
});

it('hands a calendar an address that opens what is due and nothing else, until it ends', function (): void {
    $w = $this->w;
    $make = fn (Person $person, array $more): ?string => $w->acts()->commit(
        $person,
        [MakeToken::fromInput($more + ['name' => 'calendar', 'calendar' => '1'])],
    )->made('once');
    $address = (string) $make($w->people['operator'], []);
    $bound = $w->bound();
    $secret = substr($address, strrpos($address, '/') + 1, -4);
    $row = Token::query()->where('hash', Token::hashOf($secret))->sole();
    $ask = function (string $path, ?string $bearer = null) {
        $this->app['auth']->forgetGuards();

        return $this->get($path, $bearer === null ? [] : ['Authorization' => "Bearer $bearer"]);
    };
    expect($address)->toStartWith(url('/due/hp_'))->and($row->may())->toBe('read what is due, as a calendar');
    $ask($address)->assertOk()->assertHeader('Content-Type', 'text/calendar; charset=utf-8')->assertHeaderMissing('Content-Disposition')
        ->assertSee('SUMMARY:The token "calendar" ends', false);
    expect($row->refresh()->last_used_at)->not->toBeNull();
    // The address is no key to anything else, and other tokens are no addresses.
    $ask('/api/v1/prefixes', $secret)->assertForbidden()->assertJsonPath('detail', 'This token is the address of a calendar, and opens '
        .'nothing else.');
    $ask('/metrics', $secret)->assertForbidden();
    $ask('/watch/due')->assertRedirect('/sign-in');
    $other = (string) $make($w->people['operator'], ['calendar' => '0']);
    $ask("/due/$other.ics")->assertNotFound();
    $ask('/due/hp_'.str_repeat('a', 32).'.ics')->assertNotFound();
    $ask('/due/'.strtoupper($secret).'.ics')->assertNotFound();
    // It reads with the rights of then: once its person is bound to a tenant, nothing is told.
    DB::table('people')->where('id', $row->person_id)->update(['tenant_id' => $bound->tenant_id]);
    $ask($address)->assertForbidden();
    DB::table('people')->where('id', $row->person_id)->update(['tenant_id' => null]);
    DB::table('tokens')->where('id', $row->id)->update(['expires_at' => now()->subSecond()]);
    $ask($address)->assertNotFound();
    DB::table('tokens')->where('id', $row->id)->update(['expires_at' => null]);
    $w->acts()->commit($w->people['operator'], [RevokeToken::fromInput(['token' => $row->id])]);
    $ask($address)->assertNotFound();
    $feed = ['name' => 'calendar', 'calendar' => '1'];
    expect($w->refusal(MakeToken::class, $feed, $bound))->toBe('calendar-whole')
        ->and($w->refusal(MakeToken::class, $feed + ['writes' => '1'], $w->people['operator']))->toBe('calendar-reads');
});

it('lists what is due, and as a calendar', function (): void {
    DB::table('tokens')->insert([
        'id' => (string) Illuminate\Support\Str::ulid(), 'person_id' => $this->w->people['operator']->id, 'name' => 'robot; one, two',
        'hash' => hash('sha256', 'x'), 'expires_at' => now()->addDays(3), 'made_at' => now(),
    ]);
    // What is long over takes nothing's place.
    DB::table('tokens')->insert(array_map(static fn (int $i): array => [
        'id' => (string) Illuminate\Support\Str::ulid(), 'expires_at' => now()->subDays(9), 'hash' => hash('sha256', "old $i"),
    ] + (array) DB::table('tokens')->where('name', 'robot; one, two')->first(), range(1, 320)));
    expect(array_column(Due::next($this->w->people['steward']), 'title'))->toContain('The token "robot; one, two" ends');
    $this->actingAs($this->w->people['operator'])->get('/watch/due')->assertOk()->assertReads('robot; one, two');
    $file = (string) $this->get('/watch/due.ics')->assertOk()->getContent();
    expect($file)->toContain('SUMMARY:The token "robot\\; one\\, two" ends')->toStartWith("BEGIN:VCALENDAR\r\n")
        ->toEndWith("END:VCALENDAR\r\n");
    foreach (explode("\r\n", $file) as $line) {
        expect(strlen($line))->toBeLessThanOrEqual(75);
    }
});

it('tells others of what nobody looks after, and mails them', function (): void {
    $w = $this->w;
    ['operator' => $operator, 'planner' => $planner] = $w->people;
    $rule = ['kind' => 'silent', 'minutes' => '10', 'level' => 'error', 'people' => [$operator->id], 'after' => '30',
        'further' => [$planner->id]];
    $w->did(KeepNoticeRule::fromInput($rule));
    foreach ([$operator, $planner] as $person) {
        DB::table('people')->where('id', $person->id)->update(['mail' => "$person->sign_in@mail.example", 'mail_when' => 'now']);
        $person->refresh();
    }
    $mails = fn (Person $to): array => DB::table('mails')->where('person_id', $to->id)->orderBy('id')->pluck('subject')->all();
    $look = static function (): void {
        NoticeLook::now();
        App\Domain\Watch\Mailing::collect();
    };
    $theirs = fn (Person $of): int => Notice::callsFor($of)->where('kind', 'silent')->count();
    ($this->silent)('it does not answer');
    $look();
    $this->travel(11)->minutes();
    $look();
    expect($theirs($operator))->toBe(1)->and($theirs($planner))->toBe(0)->and($mails($operator))->toHaveCount(1)
        ->and($mails($planner))->toBe([]);
    $this->travel(29)->minutes();
    $look();
    expect($theirs($planner))->toBe(0);
    $this->travel(2)->minutes();
    $look();
    $look();
    expect($theirs($planner))->toBe(1)->and($mails($planner))->toHaveCount(1)
        ->and($mails($planner)[0])->toStartWith('Nobody looks after it: ')
        ->and($mails($operator))->toHaveCount(1);
    $this->actingAs($planner)->get('/watch/notices?rule=silent')->assertOk()->assertReads('told further')
        ->assertReads("when nobody looks after it for 30 min also to $planner->name");
    // What is looked after, or quiet, is raised to nobody.
    DB::table('notices')->delete();
    $look();
    $this->travel(11)->minutes();
    $look();
    $w->did(TakeNotices::fromInput(['notices' => [Notice::query()->where('kind', 'silent')->sole()->id], 'hours' => '0']), $operator);
    $this->travel(90)->minutes();
    $look();
    expect(Notice::query()->where('kind', 'silent')->sole()->raised_at)->toBeNull()->and($theirs($planner))->toBe(0);
    expect($w->refusal(KeepNoticeRule::class, ['after' => '0'] + $rule))->toBe('half-raised')
        ->and($w->refusal(KeepNoticeRule::class, ['further' => []] + $rule))->toBe('half-raised');
});

it('lets the rule of every kind be changed', function (): void {
    foreach (NoticeKind::cases() as $kind) {
        $this->w->did(KeepNoticeRule::fromInput(['kind' => $kind->value, 'threshold' => '7', 'minutes' => '9']));
        expect(NoticeRule::of($kind)->minutes)->toBe(9);
    }
});

it('names nobody who is told nothing', function (): void {
    ['operator' => $operator, 'reader' => $reader] = $this->w->people;
    $code = fn (array $with): ?string => $this->w->refusal(KeepNoticeRule::class, ['kind' => 'silent'] + $with);
    expect($code(['people' => [$operator->id, $reader->id]]))->toBe('told-nothing')
        ->and($code(['after' => '5', 'further' => [$reader->id]]))->toBe('told-nothing')
        ->and($code(['people' => [$operator->id]]))->toBeNull();
});
