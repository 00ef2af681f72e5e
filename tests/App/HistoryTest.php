<?php

declare(strict_types=1);

use App\Acts\Name\AddRecord;
use App\Acts\Plan\PlaceHost;
use App\Domain\Watch\HistoryChain;
use App\Queries\HistoryPage;
use HarborPost\Core\Audit\Chain;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    @unlink(HistoryChain::file());
    $this->w = World::make();
    DB::table('history')->update(['at' => now()->subMinutes(10)]);
    $this->ripe = function (): void {
        DB::table('history')->where('at', '>', now()->subMinutes(5))->update(['at' => now()->subMinutes(5)]);
    };
});

afterEach(fn () => @unlink(HistoryChain::file()));

it('writes an entry in one way only (RFC 8785)', function (): void {
    expect(Chain::canonical(['b' => 1, 'a' => "é\n\"/", 'c' => null]))->toBe('{"a":"é\n\"/","b":1,"c":null}')
        ->and(Chain::canonical(['z' => 1, 'Z' => 2, '10' => 3, '9' => 4]))->toBe('{"10":3,"9":4,"Z":2,"z":1}')
        ->and(Chain::link(Chain::START, ['a' => 1]))->toBe(hash('sha256', Chain::START."\n".'{"a":1}'));
});

it('seals what was written, each entry once, and proves it', function (): void {
    $all = DB::table('history')->count();
    expect(HistoryChain::seal())->toBe($all)->and(HistoryChain::seal())->toBe(0);
    $found = HistoryChain::verify();
    expect($found)->toBe(['entries' => $all, 'faults' => [], 'waiting' => 0])->and(HistoryChain::state()['entries'])->toBe($all);
    $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => 'till-1']));
    $new = DB::table('history')->count() - $all;
    // What is fresh may stand beside what is not written yet.
    expect(HistoryChain::seal())->toBe(0)->and(HistoryChain::verify()['waiting'])->toBe($new);
    ($this->ripe)();
    expect(HistoryChain::seal())->toBe($new)->and(HistoryChain::verify()['faults'])->toBe([]);
    expect(Artisan::call('history:verify'))->toBe(0);
});

it('finds every entry that was altered, removed, inserted or moved', function (Closure $harm, string $says): void {
    HistoryChain::seal();
    expect(HistoryChain::verify()['faults'])->toBe([]);
    $harm();
    $faults = implode('; ', HistoryChain::verify()['faults']);
    expect($faults)->toContain($says);
    expect(Artisan::call('history:verify'))->toBe(1);
})->with([
    'a title altered' => [fn () => DB::table('history')->orderBy('id')->limit(1)->update(['title' => 'nothing']), 'was altered'],
    'who did it altered' => [
        fn () => DB::table('history')->whereNotNull('after')->limit(1)->update(['person_id' => str_repeat('0', 26)]),
        'was altered',
    ],
    'a value altered' => [fn () => DB::table('history')->whereNotNull('after')->limit(1)->update(['after' => '{}']), 'was altered'],
    'when altered' => [fn () => DB::table('history')->limit(1)->update(['at' => '2020-01-01 00:00:00.000']), 'was altered'],
    'an entry removed' => [fn () => DB::table('history')->limit(1)->delete(), 'was removed'],
    'an entry removed with its link' => [function (): void {
        $link = DB::table('history_chain')->where('seq', 3)->first();
        DB::table('history')->where('id', $link->history_id)->delete();
        DB::table('history_chain')->where('seq', 3)->delete();
    }, 'link 3 is missing'],
    'two entries that change places' => [function (): void {
        [$a, $b] = DB::table('history')->orderBy('id')->limit(2)->get()->all();
        DB::table('history')->where('id', $a->id)->update(['title' => $b->title, 'object_id' => $b->object_id, 'after' => $b->after]);
    }, 'was altered'],
    'an entry inserted' => [function (): void {
        $row = (array) DB::table('history')->orderBy('id')->first();
        unset($row['id']);
        DB::table('history')->insert(['at' => now()->subHours(2)] + $row);
    }, 'was never sealed'],
    'the end of the chain cut off' => [function (): void {
        $last = DB::table('history_chain')->max('seq');
        $ids = DB::table('history_chain')->where('seq', '>', $last - 2)->pluck('history_id');
        DB::table('history_chain')->where('seq', '>', $last - 2)->delete();
        DB::table('history')->whereIn('id', $ids)->delete();
    }, 'of which the file of heads tells, is gone'],
    'the whole chain made anew' => [function (): void {
        DB::table('history')->limit(1)->update(['title' => 'nothing']);
        DB::table('history_chain')->delete();
        HistoryChain::seal();
    }, 'another than was written to the file of heads'],
]);

it('seals late what was written late, in the order of the chain', function (): void {
    HistoryChain::seal();
    $gap = (int) DB::table('history')->max('id') + 5;
    $row = (array) DB::table('history')->orderBy('id')->first();
    DB::table('history')->insert(['id' => $gap + 5, 'at' => now()->subMinutes(2)] + $row);
    HistoryChain::seal();
    DB::table('history')->insert(['id' => $gap, 'at' => now()->subMinutes(1)] + $row);
    expect(HistoryChain::seal())->toBe(1)->and(HistoryChain::verify()['faults'])->toBe([]);
});

it('tells an entry an act, with who, how much and why', function (): void {
    $operator = $this->w->people['operator'];
    $input = ['prefix' => $this->w->subnet->id, 'name' => 'till-1', 'zone' => $this->w->zone->id, 'ptr' => '1'];
    $this->w->acts()->commit($operator, [PlaceHost::fromInput($input)], reason: 'the kiosk');
    $entries = (new HistoryPage(''))->entries(null);
    expect($entries[0])->toMatchArray(['action' => 'place-host', 'person' => $operator->id])
        ->and($entries[0]['parts'])->toContain('1 address new')
        ->and($entries[0]['rows'])->toBeGreaterThanOrEqual(3);
    $this->actingAs($operator)->get('/watch')->assertOk()->assertReads('Place host')->assertReads('1 address new');
    $this->get("/watch?act={$entries[0]['act']}")->assertOk()->assertSee('till-1');
});

it('is filtered by words', function (string $filter, int $least, int $most): void {
    $operator = $this->w->people['operator'];
    $this->w->acts()->commit($operator, [new AddRecord($this->w->zone->id, 'TXT', 'lighthouse', '', 'a')], reason: 'r');
    $page = new HistoryPage(str_replace('OPERATOR', $operator->sign_in, $filter));
    expect(count($page->entries(null)))->toBeGreaterThanOrEqual($least)->toBeLessThanOrEqual($most)->and($page->misread)->toBe([]);
})->with([
    'by whom' => ['by:OPERATOR', 1, 1], 'an act' => ['act:add-record', 1, 1], 'a kind' => ['kind:scope', 1, 1],
    'nothing of a kind' => ['kind:device', 0, 0],
    'a day' => ['since:2020-01-01 act:add-record', 1, 1], 'before it all' => ['until:2020-01-01', 0, 0], 'a word' => ['lighthouse', 1, 1],
    'two words' => ['by:OPERATOR kind:scope', 0, 0], 'a program' => ['via:meter', 0, 0],
]);

it('says which words it does not know', function (string $filter): void {
    $page = new HistoryPage($filter);
    expect($page->entries(null))->toBe([])->and($page->misread)->toHaveCount(1);
})->with(['by:nobody-at-all', 'since:yesterday', 'colour:red']);

it('goes on from page to page, each act once', function (): void {
    for ($n = 0; $n < 45; $n++) {
        $this->w->did(new AddRecord($this->w->zone->id, 'TXT', "t$n", '', "n$n"));
    }
    $seen = [];
    for ($before = null, $n = 0; $n < 20; $n++) {
        $page = new HistoryPage('act:add-record');
        array_push($seen, ...array_column($page->entries($before), 'act'));
        if ($page->next === null) {
            break;
        }
        $before = $page->next;
    }
    expect(count($seen))->toBe(45)->and(array_unique($seen))->toHaveCount(45);
});

it('is taken as a file, filtered, with its links', function (): void {
    $w = World::make(false);
    $name = 'till-'.bin2hex(random_bytes(4));
    $w->did(App\Acts\Plan\PlaceHost::fromInput(['prefix' => $w->subnet->id, 'name' => $name, 'description' => '=1+1']),
        $w->people['operator']);
    ($this->ripe)();
    HistoryChain::seal();
    $by = $w->people['operator']->sign_in;
    $this->actingAs($w->people['reader']);
    $json = json_decode($this->get("/watch/history.json?filter=by:$by")->assertOk()->streamedContent(), true);
    expect($json)->toHaveCount(1)->and($json[0]['act'])->toBe('place-host')->and($json[0]['after']['name'])->toBe($name)
        ->and($json[0]['by'])->toBe($by)->and($json[0]['hash'])->toMatch('/\A[0-9a-f]{64}\z/');
    $csv = $this->get("/watch/history.csv?filter=by:$by")->assertOk()->streamedContent();
    expect(substr_count(trim($csv), "\n"))->toBe(1)->and($csv)->toContain($name);
    $this->get('/watch/history.csv?filter=since:never')->assertStatus(422);
    $this->get('/watch/history.pdf')->assertNotFound();
    $this->actingAs($w->bound())->get('/watch/history.json')->assertForbidden();
});
