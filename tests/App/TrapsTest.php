<?php

declare(strict_types=1);

use App\Acts\Engine\Field;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\PlaceHost;
use App\Acts\Registry;
use App\Models\Site;
use App\Models\View;
use Illuminate\Support\Facades\Route;
use Tests\World;

/** Whatever is sent, the answer is a page that says what is wrong, never a failure of ours. */
const TRAPS = [
    'a list' => ['x'], 'a map of lists' => ['a' => ['b' => 'c']], 'bytes' => "\xff\xfe\x00\n", 'long' => 'abc.',
    'numbers' => '-99999999999999999999', 'markup' => '<script>alert(1)</script>\'"`%_\\', 'other letters' => 'é ☃ Жук',
    'like a number' => '0e5', 'blank' => '', 'an address' => 'ffff:ffff:ffff:ffff:ffff:ffff:ffff:ffff/128',
];

const KEYS = [
    'filter', 'from', 'after', 'zoom', 'at', 'by', 'length', 'address', 'show', 'q', 'kind', 'type', 'make', 'edit', 'code', 'nets',
    'client', 'name', 'panel', 'number', 'p', 'in', 'needs', 'stage', 'site', 'prefixes', 'deep', 'only', 'scope', 'server', 'target',
    'to', 'verdict', 'page', 'who', 'since', 'until', 'object', 'prefix', 'space', 'state', 'order', 'text', 'cut', 'split', 'want',
    'person', 'act', 'view', 'rd', 'tcp', 'resolver', 'asked', 'mac', 'format', 'panel', 'length6',
];

beforeEach(function (): void {
    $this->w = World::make();
    $this->w->did(
        PlaceHost::fromInput([
            'prefix' => $this->w->subnet->id, 'name' => 'till-1', 'zone' => $this->w->zone->id, 'mac' => '00:00:5e:00:53:01',
            'ptr' => '1', 'reserve' => '1',
        ]),
    );
    $this->w->did(AddRecord::fromInput(['zone' => $this->w->zone->id, 'name' => 'x', 'type' => 'TXT', 'data' => '"x"']));
    $this->all = $this->w->person('all-'.bin2hex(random_bytes(3)), ['steward', 'planner', 'operator', 'approver']);
    config(['harbor.patience' => 0.05]);
});

it('answers every page whatever stands in its address', function (): void {
    $ids = [
        'prefix' => $this->w->subnet->id, 'zone' => $this->w->zone->id, 'scope' => $this->w->scope->id, 'space' => $this->w->space->id,
        'server' => $this->w->servers['ns1'], 'site' => Site::query()->value('id') ?? 'none', 'view' => View::query()->value('id'),
    ];
    $bad = [];
    foreach (Route::getRoutes()->getRoutesByMethod()['GET'] as $route) {
        foreach (TRAPS as $what => $trap) {
            $path = preg_replace_callback(
                '/\{(\w+)\??\}/',
                fn (array $m): string => $ids[$m[1]]
                    ?? (is_array($trap) || $trap === '' ? 'x' : rawurlencode(mb_substr(mb_scrub($trap), 0, 20))),
                $route->uri(),
            );
            $values = array_fill_keys(KEYS, $what === 'long' ? str_repeat($trap, 1500) : $trap);
            $answer = $this->actingAs($this->all)->get('/'.$path.'?'.http_build_query($values));
            $answer->getStatusCode() < 500 ?: $bad[] = "$path with $what: "
                .(($answer->exception ?? null)?->getMessage() ?? $answer->getStatusCode());
        }
    }
    expect(array_map(fn (string $b): string => mb_strimwidth($b, 0, 300), $bad))->toBe([]);
});

it('answers every page with one trap at a time', function (): void {
    $ids = [
        'prefix' => $this->w->top->id, 'zone' => $this->w->zone->id, 'scope' => $this->w->scope->id, 'space' => $this->w->space->id,
        'server' => $this->w->servers['dh1'],
    ];
    $bad = [];
    foreach (
        [
            '/plan/prefix/{prefix}', '/plan/prefix/{subnet}', '/plan/{space}', '/name', '/name/zone/{zone}', '/lease', '/find',
            '/watch', '/name/lookup', '/name/views', '/plan/calculator', '/plan/summary', '/import', '/name/reverse',
            '/plan/{space}/export.csv', '/name/zone/{zone}/timeline', '/directory/vlans',
        ] as $path
    ) {
        foreach (array_unique(KEYS) as $key) {
            foreach (['a list', 'bytes', 'numbers', 'other letters', 'an address', 'like a number'] as $what) {
                $to = preg_replace_callback('/\{(\w+)\}/', fn (array $m): string => $ids[$m[1]] ?? $this->w->subnet->id, $path)
                    .'?'
                    .http_build_query([$key => TRAPS[$what]]);
                $answer = $this->actingAs($this->all)->get($to);
                $answer->getStatusCode() < 500 ?: $bad[] = "$to: "
                    .(($answer->exception ?? null)?->getMessage() ?? $answer->getStatusCode());
            }
        }
    }
    expect(array_map(fn (string $b): string => mb_strimwidth($b, 0, 300), $bad))->toBe([]);
})->skip(getenv('HPOST_LONG') === false, 'a long walk: HPOST_LONG=1');

it('answers every act whatever is sent to it', function (string $class): void {
    $ids = [
        'Prefix' => $this->w->subnet->id, 'Zone' => $this->w->zone->id, 'Scope' => $this->w->scope->id, 'Space' => $this->w->space->id,
        'Server' => $this->w->servers['ns1'], 'View' => $this->w->view, 'Person' => $this->all->id,
    ];
    $bad = [];
    foreach (TRAPS as $what => $trap) {
        foreach ([false, true] as $known) {
            $input = array_map(
                fn (Field $f): mixed => $known
                    && in_array($f->kind, [Kind::Id, Kind::Ids], true)
                    && $f->of !== null
                    && isset($ids[class_basename($f->of)])
                        ? $ids[class_basename($f->of)]
                        : (
                            $known
                                && $f->kind === Kind::Choice
                                    ? $f->choices[0]
                                    : ($what === 'long' ? str_repeat((string) $trap, 25_000) : $trap)
                        ),
                Inputs::of($class),
            );
            $answer = $this->actingAs($this->all)
                ->post('/act/'.$class::key(), ['then' => 'preview', '_form' => $known ? 'x' : $trap] + $input);
            $answer->getStatusCode() < 500 ?: $bad[] = "$what: ".(($answer->exception ?? null)?->getMessage() ?? $answer->getStatusCode());
        }
    }
    expect(array_map(fn (string $b): string => mb_strimwidth($b, 0, 300), $bad))->toBe([]);
})->with(Registry::ACTS);
