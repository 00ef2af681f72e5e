<?php

declare(strict_types=1);

use App\Acts\Engine\BadInput;
use App\Acts\Engine\Field;
use App\Acts\Engine\Inputs;
use App\Acts\Engine\Kind;
use App\Acts\Name\AddRecord;
use App\Acts\Plan\PlaceHost;
use App\Acts\Registry;
use App\Models\Model;
use Illuminate\Support\Facades\Route;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;
use Tests\World;

/**
 * Ten thousand cases of one seed: inputs that are nearly right, one of them or several wrong, over every act and every page. What comes is
 * an outcome or a refusal in words; never a failure of ours, and nothing is written by a rehearsal. HPOST_SEED tries others.
 */
const ACT_CASES = 8_400;

const PAGE_CASES = 1_600;

/** Values that somebody types in earnest, and such as somebody types to see what happens. */
const EARNEST = [
    '192.0.2.9', '192.0.2.0/25', '192.0.2.128/26', '2001:db8::1', '2001:db8:4::/64', '192.0.2.10-192.0.2.20', '00:00:5e:00:53:0a',
    'till-7', 'till-7.quay.example', 'x', '@', '3600', '1', '24', '2026-11-26',
    'none', '-', '*', 'A', 'AAAA', 'CNAME', 'PTR', 'TXT', 'NS', '"text"', '10 mail', '0 issue "ca.example"', 'ns1.quay.example.', 'fit',
    'Tills, quay 1', '+new, -old', '6', '43', '0xff00', 'quay.example', '2.0.192.in-addr.arpa', '110', '210-212', 'DOOR-{n}-{i}',
    "192.0.2.9\n192.0.2.8", 'k.example. 192.0.2.0/24',
];

const ODD = [
    '', ' ', '0', '-1', '4294967296', '99999999999999999999', '1e5', '0e5', '0x', "\xff\xfe", "a\0b", "\u{202E}abc", '٣', 'é',
    '☃.example', '<b>', "'; --", '%', '_', '\\', '\\300', '192.0.2.256', '192.0.2.9/33', '::/0', '0.0.0.0/0', '255.255.255.255',
    'ffff::/129', '192.0.2.1-192.0.2.0', 'fe80::1%eth0', '1.2.3', '..', '.', 'a..b', '2026-02-30', '00:00:5e',
    '{"a":1}', "line\r\nline", '$TTL 5', '( ', '"', '0000-00-00', 'null', 'true', '🚢',
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
    $this->seed = (int) (getenv('HPOST_SEED') ?: 20261126);
    $this->random = new Randomizer(new Xoshiro256StarStar($this->seed));
    $this->one = fn (array $of): mixed => $of[$this->random->getInt(0, count($of) - 1)];
    $this->chance = fn (int $percent): bool => $this->random->getInt(1, 100) <= $percent;
    config(['harbor.patience' => 0.05]);
});

it('answers ten thousand nearly right inputs with an outcome or a refusal', function (): void {
    $ids = [];
    $idsOf = function (string $class) use (&$ids): array {
        /** @var class-string<Model> $class */
        return $ids[$class] ??= [...$class::query()->limit(6)->pluck('id')->all(), '01ARZ3NDEKTSV4RRFFQ69G5FAV'];
    };
    $odd = fn (): mixed => ($this->chance)(8)
        ? (($this->chance)(50) ? ['x', ['y']] : str_repeat(($this->one)(ODD), 5000))
        : ($this->one)(ODD);
    $value = function (Field $f) use ($idsOf, $odd): mixed {
        if (($this->chance)(12)) {
            return $odd();
        }

        return match (true) {
            $f->kind === Kind::Id && $f->of !== null => ($this->one)($idsOf($f->of)),
            $f->kind === Kind::Ids && $f->of !== null => array_map(
                fn (): mixed => ($this->one)($idsOf($f->of)),
                range(0, $this->random->getInt(0, 2)),
            ),
            $f->kind === Kind::Choice => ($this->one)($f->choices),
            $f->kind === Kind::Flag => ($this->one)(['0', '1', 'on']),
            $f->kind === Kind::Number => (string) $this->random->getInt(0, 300),
            $f->kind === Kind::Texts => [($this->one)(EARNEST), ($this->one)(EARNEST)],
            $f->kind === Kind::Map => [($this->one)(EARNEST) => ($this->one)(EARNEST)],
            default => ($this->one)(EARNEST),
        };
    };
    $acts = Registry::ACTS;
    $before = Illuminate\Support\Facades\DB::table('history')->count();
    $failed = [];
    $refused = $went = 0;
    for ($n = 0; $n < ACT_CASES; $n++) {
        $class = $acts[$n % count($acts)];
        $input = [];
        foreach (Inputs::of($class) as $name => $field) {
            if ($field->kind !== Kind::NewId && ($this->chance)(65)) {
                $input[$name] = $value($field);
            }
        }
        try {
            $outcome = $this->w->acts()->rehearse($this->all, [$class::fromInput($input)]);
            $outcome->blocked() ? $refused++ : $went++;
            $outcome->digest();
        } catch (BadInput) {
            $refused++;
        } catch (Throwable $e) {
            $failed[] = $class::key()
                .' '
                .mb_strimwidth(json_encode($input, JSON_INVALID_UTF8_SUBSTITUTE | JSON_UNESCAPED_UNICODE) ?: '', 0, 300)
                .': '
                .$e::class
                .' '
                .mb_strimwidth($e->getMessage(), 0, 200)
                .' at '
                .basename($e->getFile())
                .':'
                .$e->getLine();
        }
    }
    expect($failed)->toBe([], "seed $this->seed")->and($went)
        ->toBeGreaterThan(ACT_CASES / 20, 'some get through to the act')->and($refused)->toBeGreaterThan(ACT_CASES / 5)
        ->and(Illuminate\Support\Facades\DB::table('history')->count())->toBe($before, 'a rehearsal writes nothing');
});

it('answers every page whatever is asked of it', function (): void {
    $ids = [
        'prefix' => $this->w->subnet->id, 'zone' => $this->w->zone->id, 'scope' => $this->w->scope->id, 'space' => $this->w->space->id,
        'server' => $this->w->servers['ns1'], 'view' => $this->w->view,
    ];
    $routes = array_values(
        array_filter(Route::getRoutes()->getRoutesByMethod()['GET'], fn ($r): bool => ! str_contains($r->uri(), 'drift')),
    );
    $keys = [
        'filter', 'from', 'after', 'zoom', 'at', 'by', 'length', 'address', 'show', 'q', 'kind', 'type', 'make', 'edit', 'nets',
        'client', 'name', 'panel', 'p', 'needs', 'stage', 'site', 'only', 'scope', 'server', 'target', 'to', 'page', 'who', 'since',
        'object', 'order', 'act', 'view', 'before', 'mac', 'cut', 'want',
    ];
    $failed = [];
    for ($n = 0; $n < PAGE_CASES; $n++) {
        $route = $routes[$n % count($routes)];
        $path = preg_replace_callback(
            '/\{(\w+)\??\}/',
            fn (array $m): string => ($this->chance)(85) && isset($ids[$m[1]]) ? $ids[$m[1]] : rawurlencode(($this->one)(EARNEST)),
            $route->uri(),
        );
        $query = [];
        for ($k = $this->random->getInt(0, 4); $k > 0; $k--) {
            $query[($this->one)($keys)] = ($this->chance)(50)
                ? ($this->one)(EARNEST)
                : (($this->chance)(10) ? [($this->one)(ODD)] : ($this->one)(ODD));
        }
        $answer = $this->actingAs($this->all)->get("/$path?".http_build_query($query));
        $answer->getStatusCode() < 500 ?: $failed[] = "/$path?"
            .http_build_query($query)
            .': '
            .mb_strimwidth(($answer->exception ?? null)?->getMessage() ?? (string) $answer->getStatusCode(), 0, 200);
    }
    expect($failed)->toBe([], "seed $this->seed");
});
