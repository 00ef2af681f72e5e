<?php

declare(strict_types=1);

use App\Acts\Directory\ChangePerson;
use App\Acts\Directory\MakeSite;
use App\Acts\Directory\MakeToken;
use App\Acts\Plan\ChangePrefix;
use App\Acts\Plan\PlaceHost;
use App\Acts\Texts\DropText;
use App\Acts\Texts\KeepTemplate;
use App\Acts\Texts\KeepTemplateData;
use App\Acts\Texts\RemoveTemplate;
use App\Domain\Texts\TemplateEngine;
use App\Domain\Texts\TextFault;
use App\Models\MadeText;
use App\Models\Template;
use App\Queries\Reach;
use App\Texts\TextMaking;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Tests\World;

beforeEach(function (): void {
    DB::table('template_data')->delete();
    DB::table('templates')->delete();
    $this->w = World::make();
    $this->by = $this->w->people['operator'];
    $this->template = function (string $body, string $of = 'prefix', string $name = 'Router'): Template {
        $this->w->did($act = KeepTemplate::fromInput(['name' => $name, 'of' => $of, 'body' => $body]), $this->by);

        return Template::query()->findOrFail($act->id);
    };
    $this->text = fn (Template $t): string => TextMaking::of($t, $this->w->subnet->refresh(), Reach::of($this->by));
    $this->data = fn (string $layer, string $text, array $more = []) => $this->w->did(
        KeepTemplateData::fromInput(['layer' => $layer, 'data' => $text] + $more), $this->by,
    );
    $this->render = function (string $body): string {
        try {
            return TemplateEngine::render($body, ['it' => ['name' => 'x', 'list' => [1, 2, 3]]], fn (): array => [], fn (): ?array => null);
        } catch (TextFault $e) {
            return 'FAULT '.$e->getMessage();
        }
    };
});

it('makes a text of an object, of what it names, and of lists', function (): void {
    foreach (['till-2' => '192.0.2.11', 'till-1' => '192.0.2.10'] as $name => $address) {
        $this->w->did(PlaceHost::fromInput(['prefix' => $this->w->subnet->id, 'name' => $name, 'address' => $address]));
    }
    $template = ($this->template)(<<<'TWIG'
        net {{ it.prefix|network }} {{ it.prefix|mask }} {{ it.prefix|wildcard }} {{ it.prefix|bits }} gw {{ it.gateway }}
        of {{ it.space.name }}, from {{ it.prefix|first_usable }} to {{ it.prefix|last_usable }}
        {% for h in list('addresses', {prefix_id: it.id}) %}
        {{ h.address }} {{ h.name|pad(8) }}| {{ h.address|reverse_name }} {{ h.address|plus(1) }}
        {% endfor %}
        {% set zone = one('zones', 'ZONE') %}{{ zone.title }} {{ it.prefix|reverse_zones|join(' ') }}
        TWIG);
    $this->w->did(KeepTemplate::fromInput([
        'id' => $template->id, 'name' => 'Router', 'of' => 'prefix',
        'body' => str_replace('ZONE', $this->w->zone->title(), $template->body),
    ]), $this->by);
    $text = ($this->text)($template->refresh());
    expect($text)->toContain("net 192.0.2.0 255.255.255.128 0.0.0.127 25 gw 192.0.2.1\n")
        ->toContain("of {$this->w->space->name}, from 192.0.2.1 to 192.0.2.126\n")
        ->toContain("192.0.2.10 till-1  | 10.2.0.192.in-addr.arpa 192.0.2.11\n192.0.2.11 till-2")
        ->toContain($this->w->zone->title().' 0/25.2.0.192.in-addr.arpa');
});

it('merges data by layer, the nearest first, and says where each value is from', function (): void {
    $this->w->did($north = MakeSite::fromInput(['name' => 'North '.bin2hex(random_bytes(2))]));
    $this->w->did($quay = MakeSite::fromInput(['name' => 'Quay '.bin2hex(random_bytes(2)), 'parent' => $north->id]));
    $this->w->did(new ChangePrefix([$this->w->subnet->id], site: $quay->id, role: 'till', tags: 'wired, loud'));
    ($this->data)('organisation', "ntp: [10.0.0.1]\nsnmp: {where: lodge, level: 2}");
    ($this->data)('site', 'snmp: {where: north}', ['site' => $north->id]);
    ($this->data)('site', '{"ntp": ["10.1.0.1"]}', ['site' => $quay->id]);
    ($this->data)('role', 'port: 9100', ['word' => 'till']);
    ($this->data)('tag', 'port: 9200', ['word' => 'wired']);
    ($this->data)('tag', 'port: 1', ['word' => 'elsewhere']);
    $template = ($this->template)('{{ data.ntp|join(",") }} {{ data.snmp.where }} {{ data.snmp.level }} {{ data.port }}');
    expect(($this->text)($template))->toBe("10.1.0.1 north 2 9200\n");
    $told = TextMaking::dataOf($this->w->subnet->refresh())->origins;
    expect($told['snmp.level'])->toBe('Organisation')->and($told['snmp.where'])->toBe($north->name)
        ->and($told['ntp'])->toBe($quay->name)->and($told['port'])->toBe('tag wired');
    ($this->data)('tag', '', ['word' => 'wired']);
    expect(($this->text)($template))->toBe("10.1.0.1 north 2 9100\n");
    foreach (['- a', 'x: [', "a: &x 1\nb: {{{", 'just words', str_repeat('a: {', 14).'b: 1'.str_repeat('}', 14)] as $bad) {
        expect($this->w->refusal(KeepTemplateData::class, ['layer' => 'organisation', 'data' => $bad], $this->by))->toBe('bad-data');
    }
    expect($this->w->refusal(KeepTemplateData::class, ['layer' => 'site', 'data' => 'a: 1'], $this->by))->toBe('no-site')
        ->and($this->w->refusal(KeepTemplateData::class, ['layer' => 'tag', 'data' => 'a: 1'], $this->by))->toBe('no-name');
    // What could be an object of ours stays a text.
    $object = 'a: !php/object "O:8:\"stdClass\":0:{}"';
    expect($this->w->refusal(KeepTemplateData::class, ['layer' => 'organisation', 'data' => $object], $this->by))
        ->toBe('bad-data');
    $warned = $this->w->acts()->rehearse($this->by, [KeepTemplateData::fromInput(['layer' => 'organisation', 'data' => 'password: x'])]);
    expect(array_column($warned->notes(), 'code'))->toContain('no-secrets');
});

it('keeps within its sandbox', function (): void {
    foreach ([
        "{{ include('template') }}", "{{ source('template') }}", "{{ constant('PHP_VERSION') }}", "{{ 'id'|map('system') }}",
        "{{ ['id']|map('system')|join }}", "{{ ['id']|sort('system')|join }}", "{{ ['id']|filter('system')|join }}",
        "{% include 'template' %}",
        "{{ attribute(_self, 'x') }}", '{{ dump() }}', '{{ _self.env }}', "{% import 'x' as y %}", '{% extends "x" %}', '{{ it.name|raw }}',
        '{{ range(1, 10)|join }}', '{% for i in 1..9 %}{% endfor %}', '{{ random() }}', "{{ 'x'|format(1) }}", '{{ [1]|batch(9)|length }}',
        '{% embed "x" %}{% endembed %}', '{{ cycle([1], 1) }}', "{{ template_from_string('x') }}", '{% sandbox %}{% endsandbox %}',
        "{{ it|reduce('system') }}", '{% macro x() %}{% endmacro %}', '{% block x %}{% endblock %}', '{% use "x" %}',
    ] as $body) {
        expect(($this->render)($body))->toStartWith('FAULT ', $body);
    }
    expect(($this->render)('{{ it.list|map(x => x * 2)|join(",") }} {{ it.list|filter(x => x > 1)|join }}'))->toBe('2,4,6 23');
});

it('ends, however much a template would use up', function (): void {
    $grow = "{% set s = 'x' %}".str_repeat('{% set s = s ~ s %}', 40).'{{ s }}';
    $nest = '{% set l = it.list|merge(it.list)|merge(it.list) %}{% set l = l|merge(l)|merge(l)|merge(l)|merge(l)|merge(l) %}'
        .str_repeat('{% for a in l %}', 6).'x'.str_repeat('{% endfor %}', 6);
    $wide = "{{ '".str_repeat('a', 5000)."'|replace({a: '".str_repeat('b', 20000)."'}) }}";
    expect(($this->render)($grow))->toContain('memory')->and(($this->render)($nest))->toContain('turns more than')
        ->and(($this->render)($wide))->toContain('"replace" would make too long a text')
        ->and(($this->render)('{{ it.name|pad(1000000000) }}'))->toHaveLength(200)
        ->and(($this->render)('{{ 1 // 0 }}'))->toStartWith('FAULT')->and(($this->render)('{{ it.list + 1 }}'))->toStartWith('FAULT')
        ->and(($this->render)("{{ 'fish'|mask }}"))->toBe('FAULT line 1: "fish" is no prefix.')
        ->and(($this->render)("a\nb {{ it.nothing }}"))->toContain('line 2: ')
        ->and(($this->render)("{{ it.nothing|default('none') }}"))->toBe('none');
});

it('says where a template is wrong before it is kept', function (): void {
    foreach (['{{ it.name', '{% for %}', "ok\n{{ x|nofilter }}", '{% flush %}'] as $bad) {
        expect($this->w->refusal(KeepTemplate::class, ['name' => 'T', 'of' => 'site', 'body' => $bad], $this->by))->toBe('bad-template');
    }
    expect(TemplateEngine::fault("ok\n{{ x|nofilter }}"))->toStartWith('line 2: ');
    ($this->template)('{{ it.name }}');
    expect($this->w->refusal(KeepTemplate::class, ['name' => 'Router', 'of' => 'site', 'body' => ''], $this->by))->toBe('name-taken')
        ->and($this->w->refusal(KeepTemplate::class, ['name' => ' ', 'of' => 'site', 'body' => ''], $this->by))->toBe('no-name');
});

it('keeps texts, makes them again when what they read changes, and tells of it', function (): void {
    $template = ($this->template)("name {{ it.name }}\nend\n");
    $this->actingAs($this->by)->post("/directory/texts/$template->id/keep", ['object' => $this->w->subnet->id])->assertRedirect();
    $kept = MadeText::query()->where('template_id', $template->id)->sole();
    expect($kept->text)->toBe("name Ticketing\nend\n")->and($kept->before)->toBeNull();
    expect(Artisan::call('texts:make'))->toBe(0);
    expect($kept->refresh()->before)->toBeNull();
    $this->w->did(new ChangePrefix([$this->w->subnet->id], name: 'Gate'));
    $this->get("/directory/texts/$template->id?object={$this->w->subnet->id}")->assertOk()->assertSee('name Gate')
        ->assertReads('Against the text that is kept')->assertReads('− gone name Ticketing')->assertReads('+ new name Gate');
    $count = DB::table('history')->where('action', 'keep-text')->count();
    expect(Artisan::call('texts:make --json'))->toBe(0);
    expect($kept->refresh()->text)->toBe("name Gate\nend\n")->and($kept->before)->toBe("name Ticketing\nend\n")
        ->and(DB::table('history')->where('action', 'keep-text')->count())->toBe($count + 1);
    // It cannot be made any more: what stands stays, and why is said.
    $change = fn (string $body) => $this->w->did(
        KeepTemplate::fromInput(['id' => $template->id, 'name' => 'Router', 'of' => 'prefix', 'body' => $body]), $this->by,
    );
    $change('{{ it.nothing }}');
    expect(Artisan::call('texts:make'))->toBe(1);
    expect($kept->refresh()->text)->toBe("name Gate\nend\n")->and($kept->trouble)->toContain('line 1');
    expect($this->w->refusal(KeepTemplate::class, ['id' => $template->id, 'name' => 'Router', 'of' => 'site', 'body' => ''], $this->by))
        ->toBe('has-texts');
    $change('fine');
    $this->w->did(ChangePerson::fromInput(['person' => $this->by->id, 'active' => '0']));
    expect(Artisan::call('texts:make'))->toBe(1);
    expect($kept->refresh()->trouble)->toContain('here no more')->and($kept->text)->toBe("name Gate\nend\n");
    $this->w->did(DropText::fromInput(['text' => $kept->id]));
    $this->w->did(RemoveTemplate::fromInput(['template' => $template->id]));
    expect(MadeText::query()->where('template_id', $template->id)->exists())->toBeFalse();
});

it('is asked for by programs and downloaded, by those who see the whole', function (): void {
    $template = ($this->template)('net {{ it.prefix }}');
    $secret = (string) $this->w->acts()->commit($this->by, [MakeToken::fromInput(['name' => 'fetch'])])->made('once');
    $get = fn (string $path, string $with) => $this->call('GET', "/api/v1/texts/$path", server: [
        'HTTP_AUTHORIZATION' => "Bearer $with", 'HTTP_ACCEPT' => 'text/plain',
    ]);
    $get("Router/{$this->w->subnet->id}", $secret)->assertOk()->assertContent("net 192.0.2.0/25\n")
        ->assertHeader('Content-Type', 'text/plain; charset=utf-8');
    $get('Router/nothing', $secret)->assertStatus(404);
    $get("Nothing/{$this->w->subnet->id}", $secret)->assertStatus(404);
    $get("Router/{$this->w->subnet->id}", 'hp_none')->assertStatus(401);
    $this->actingAs($this->by);
    $file = $this->get("/directory/texts/$template->id/of/{$this->w->subnet->id}")->assertOk();
    expect($file->headers->get('Content-Disposition'))->toStartWith('attachment; filename="router-192.0.2.0-25');
    $attempt = fn (string $body) => $this->post(
        "/directory/texts/$template->id/attempt", ['of' => 'prefix', 'body' => $body, 'object' => $this->w->subnet->id],
    )->assertOk();
    $attempt('{{ it.name')->assertReads('line 1');
    $attempt('<b>{{ it.name }}')->assertSee('&lt;b&gt;Ticketing', false);
    $this->get('/directory/texts')->assertOk()->assertSee('Router');
    // Several may be meant: which, is asked.
    $this->w->carve('192.0.2.128/26', ['name' => 'Twin']);
    $this->w->carve('192.0.2.192/26', ['name' => 'Twin']);
    $this->get("/directory/texts/$template->id?object=Twin")->assertOk()->assertReads('192.0.2.192/26');
    $this->get("/directory/texts/$template->id?object=Nothing")->assertOk()->assertSee('"Nothing" is no prefix that you see');
    $get('Router/Twin', $secret)->assertStatus(409);
    $this->get("/directory/texts/$template->id/of/Twin")->assertNotFound();
    $this->actingAs($this->by);
    $this->w->did($tenant = App\Acts\Directory\MakeTenant::fromInput(['name' => 'Strangers '.bin2hex(random_bytes(3))]));
    $stranger = $this->w->person('stranger-'.bin2hex(random_bytes(3)), ['tenant-admin'], $tenant->id);
    $this->actingAs($stranger)->get('/directory/texts')->assertForbidden();
    $this->get("/directory/texts/$template->id")->assertForbidden();
});
