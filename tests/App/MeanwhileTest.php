<?php

declare(strict_types=1);

use App\Acts\Lease\AddReservation;
use App\Acts\Lease\ChangeScope;
use App\Acts\Plan\ChangePrefix;
use App\Models\Reservation;
use App\Queries\History;
use Illuminate\Support\Facades\DB;
use Tests\World;

/** Theirs beside mine: who saves second sees both, and writes on top only of what was seen. */
it('shows what somebody saved meanwhile beside what the form would write, and writes on top only when it was seen', function (): void {
    $w = World::make(false);
    $subnet = $w->subnet;
    $opened = $subnet->version;
    $w->did(new ChangePrefix([$subnet->id], name: 'Tills', description: 'two lanes'), $w->people['planner']);
    $form = [
        'prefixes' => [$subnet->id], 'name' => 'Ticket hall', 'description' => '', 'seen' => ["prefix:$subnet->id" => (string) $opened],
    ];
    $this->actingAs($w->people['planner']);
    // While one types.
    $page = $this->withHeader('HX-Request', 'true')->post('/act/change-prefix', $form)->assertOk();
    $page->assertSee('changed meanwhile')->assertSee('saved')
        ->assertSeeInOrder(['name', 'you saw', 'Ticketing', 'theirs', 'Tills', 'yours', 'Ticket hall'])
        ->assertSee('two lanes')->assertSee('data-offer="Tills"', false);
    // Sent all the same: nothing is written, what was typed is kept, both versions are shown.
    $this->flushHeaders();
    $page = $this->post('/act/change-prefix', $form + ['then' => 'commit'])->assertStatus(409)
        ->assertSee('Nothing was written, and what you typed is kept')->assertSee('value="Ticket hall"', false)
        ->assertSee('Tills');
    expect($subnet->refresh()->name)->toBe('Tills');
    $over = ['over' => ["prefix:$subnet->id" => (string) $subnet->version]];
    $page->assertSee("over[prefix:$subnet->id]", false);
    $this->withHeader('HX-Request', 'true')->post('/act/change-prefix', $form + $over)->assertOk()
        ->assertDontSee('changed meanwhile')->assertSee('on top of what was saved meanwhile')
        ->assertReads('name Tills → Ticket hall');
    $this->flushHeaders();
    // A third save in between is not covered by what was seen.
    $w->did(new ChangePrefix([$subnet->id], role: 'tills'));
    $this->post('/act/change-prefix', $form + $over + ['then' => 'commit'])->assertStatus(409)->assertSee('role')
        ->assertDontSee('two lanes');
    $over = ['over' => ["prefix:$subnet->id" => (string) $subnet->refresh()->version]];
    $this->post('/act/change-prefix', $form + $over + ['then' => 'commit'])->assertRedirect();
    expect($subnet->refresh()->name)->toBe('Ticket hall')->and($subnet->role)->toBe('tills');
});

it('tells nothing of an object out of reach, nor who it was to a tenant', function (): void {
    $w = World::make(false);
    $bound = $w->bound();
    $this->actingAs($bound);
    $w->did(new ChangePrefix([$w->top->id], name: 'Hidden name'));
    $page = $this->post(
        '/act/change-prefix',
        ['prefixes' => [$w->top->id], 'name' => 'x', 'seen' => ["prefix:{$w->top->id}" => '1'], 'then' => 'commit'],
    );
    expect($page->getContent().json_encode(session()->all()))->not->toContain('Hidden name');
});

it('gathers the history of a scope with its ranges, options, reservations and servers', function (): void {
    $w = World::make();
    $add = AddReservation::fromInput([
        'scope' => $w->scope->id, 'address' => '192.0.2.10', 'mac' => '02:00:5e:00:00:01', 'name' => 'gangway',
    ]);
    $w->did($add);
    $w->did(new ChangeScope($w->scope->id, leaseTime: '7200'));
    $w->did(new App\Acts\Lease\RemoveReservations([Reservation::query()->where('scope_id', $w->scope->id)->sole()->id], $w->scope->id));
    $nouns = History::rows($w->scope->id, null, null, 200)->pluck('object_type')->countBy();
    expect($nouns->keys()->sort()->values()->all())
        ->toBe(['option', 'range', 'reservation', 'scope', 'scope on a server'])->and($nouns['reservation'])->toBe(2);
    $this->actingAs($w->people['reader'])->get("/watch?object={$w->scope->id}")->assertOk()->assertSee('192.0.2.10')
        ->assertSee('add reservation');
    expect(
        DB::table('history')->where('object_type', 'scope')->where('object_id', $w->scope->id)->orderBy('id')->pluck('version')->all(),
    )->toBe([1, 2]);
    $this->get("/lease/scope/{$w->scope->id}")->assertSee("/watch?object={$w->scope->id}", false);
});

it('commits from within a page without leaving it, and says there what stands in the way', function (): void {
    $w = World::make(false);
    $this->actingAs($w->people['planner'])->withHeader('HX-Request', 'true');
    $form = ['prefixes' => [$w->subnet->id], 'name' => 'Ticket hall', 'then' => 'commit'];
    $this->post('/act/change-prefix', ['gateway' => '198.51.100.1'] + $form)->assertOk()->assertHeaderMissing('HX-Redirect')
        ->assertReads('Nothing was written.')->assertSee('data-field="gateway"', false);
    expect($w->subnet->refresh()->name)->toBe('Ticketing');
    $this->post('/act/change-prefix', $form)->assertOk()->assertHeader('HX-Redirect', url("/plan/prefix/{$w->subnet->id}"));
    expect($w->subnet->refresh()->name)->toBe('Ticket hall');
});
