<?php

declare(strict_types=1);

use App\Acts\Directory\MakeOwnField;
use App\Acts\Watch\KeepAudit;
use App\Acts\Watch\WaiveFinding;
use App\Domain\Watch\AuditRun;
use App\Models\Audit;
use App\Models\Host;
use App\Models\OwnField;
use App\Models\Prefix;
use App\Queries\Matching;
use App\Queries\Reach;
use App\View\Mending;
use Tests\World;

/*
 * What fails a rule is mended where it stands: the fields that the rule asks about, for all that are picked, or for all that fail.
 */

beforeEach(function (): void {
    $this->w = World::make(false);
    $this->actingAs($this->w->people['planner']);
    $this->rule = function (array $must, string $kind = 'subnet', array $where = []): Audit {
        $act = KeepAudit::fromInput(['name' => 'Rule '.bin2hex(random_bytes(3)), 'kind' => $kind, 'must' => $must, 'where' => $where]);
        $this->w->did($act);
        $audit = Audit::query()->findOrFail($act->id);
        AuditRun::one($audit);

        return $audit->refresh();
    };
    $this->form = fn (Audit $audit): ?Mending => Mending::of($audit, OwnField::query()->get()->toBase());
    $this->piers = ['1-fact' => 'name', '1-test' => 'starts', '1-value' => 'pier'];
});

it('has the fields that the rule asks about, filled with what it wants', function (): void {
    $rule = ($this->rule)([
        '1-fact' => 'description', '1-test' => 'is', '1-value' => 'counted', '2-fact' => 'vlan', '2-test' => 'set', '3-fact' => 'use',
        '3-test' => 'set',
    ]);
    expect(($this->form)($rule)?->fields)->toBe(['description' => 'counted', 'vlan' => ''])
        // What is counted is nobody's to write.
        ->and(($this->form)(($this->rule)(['1-fact' => 'use', '1-test' => 'set'])))->toBeNull()
        ->and(($this->form)(($this->rule)(['1-fact' => 'serial', '1-test' => 'set'], 'zone')))->toBeNull();
});

it('mends all that fail in one act, and finds nothing when it runs again', function (): void {
    for ($n = 0; $n < 310; $n++) {
        $this->w->carve('10.70.'.intdiv($n, 4).'.'.(64 * ($n % 4)).'/26', ['name' => "pier-$n"]);
    }
    $rule = ($this->rule)(['1-fact' => 'description', '1-test' => 'is', '1-value' => 'counted'], where: $this->piers);
    expect($rule->failing)->toBe(310);
    $this->get("/watch/audits/$rule->id")->assertOk()->assertReads('Mend what is picked')->assertReads('all 310')
        ->assertSee('value="counted"', false);
    $left = Prefix::query()->where('name', 'pier-7')->sole();
    $this->w->did(new WaiveFinding($rule->id, $left->id, now()->addDays(3)->toDateString(), 'another owner'));
    expect(Matching::Failing->ids($rule->id, '', Reach::whole()))->toHaveCount(309)->not->toContain($left->id)
        ->and(Matching::Failing->ids($rule->id, '', Reach::of($this->w->bound())))->toBe([])
        ->and(Matching::Failing->ids('nothing', '', Reach::whole()))->toBe([]);
    $this->post('/act/change-prefix', [
        'all' => ['prefixes' => "failing:$rule->id:"], 'description' => 'counted', 'stay' => "/watch/audits/$rule->id", 'then' => 'commit',
        'reason' => 'x',
    ])->assertRedirect("/watch/audits/$rule->id");
    AuditRun::one($rule->refresh());
    expect($rule->refresh()->failing)->toBe(0)->and($left->refresh()->description)->toBe('');
});

it('mends hosts too, and offers it only to who may', function (): void {
    $prefix = $this->w->carve('10.71.0.0/24', ['name' => 'Hall']);
    $this->w->did(new App\Acts\Plan\PlaceMany(array_map(
        fn (int $n): array => ['prefix' => $prefix->id, 'address' => "10.71.0.$n", 'name' => "h-$n"],
        range(2, 6),
    )));
    $rule = ($this->rule)(
        ['1-fact' => 'owner', '1-test' => 'set'], 'address', ['1-fact' => 'purpose', '1-test' => 'is', '1-value' => 'Hall'],
    );
    expect($rule->failing)->toBe(5);
    $some = Host::query()->where('prefix_id', $prefix->id)->limit(2)->pluck('id')->all();
    $this->post('/act/change-hosts', ['hosts' => $some, 'owner' => 'Harbour office', 'then' => 'commit'])->assertRedirect();
    AuditRun::one($rule->refresh());
    expect($rule->refresh()->failing)->toBe(3);
    $this->actingAs($this->w->people['reader'])->get("/watch/audits/$rule->id")->assertOk()->assertDontSee('Mend what is picked');
    $this->actingAs($this->w->people['operator'])->get("/watch/audits/$rule->id")->assertOk()->assertReads('Mend what is picked');
});

it('knows fields of one\'s own', function (): void {
    $this->w->did(MakeOwnField::fromInput(['name' => 'Cost centre', 'kind' => 'text']));
    $field = OwnField::query()->where('name', 'Cost centre')->sole();
    app()->forgetScopedInstances();
    $this->w->carve('10.72.0.0/24', ['name' => 'pier-own']);
    $rule = ($this->rule)(['1-fact' => "own-$field->id", '1-test' => 'set'], where: $this->piers);
    expect($rule->failing)->toBe(1)->and(($this->form)($rule)?->own->pluck('name')->all())->toBe(['Cost centre']);
    $this->get("/watch/audits/$rule->id")->assertOk()->assertSee("name=\"own[$field->id]\"", false);
    $this->post('/act/change-prefix', [
        'all' => ['prefixes' => "failing:$rule->id:"], 'own' => [$field->id => '4711'], 'then' => 'commit', 'reason' => 'x',
    ])->assertRedirect();
    AuditRun::one($rule->refresh());
    expect($rule->refresh()->failing)->toBe(0);
});
