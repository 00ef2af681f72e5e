<?php

declare(strict_types=1);

namespace Tests;

use App\Acts\Directory;
use App\Acts\Engine\Act;
use App\Acts\Engine\Acts;
use App\Acts\Engine\BadInput;
use App\Acts\Engine\Outcome;
use App\Acts\Lease\MakeScope;
use App\Acts\Name\MakeZone;
use App\Acts\Plan\CarvePrefix;
use App\Acts\Plan\ChangePrefix;
use App\Models\Person;
use App\Models\Prefix;
use App\Models\Scope;
use App\Models\Space;
use App\Models\Zone;

/** A small organisation, made by the same Actions as on screen. */
final class World
{
    public Space $space;

    public Prefix $top;

    public Prefix $subnet;

    public Zone $zone;

    public Zone $reverse;

    public ?Scope $scope = null;

    /** @var array<string, Person> */
    public array $people = [];

    public string $view;

    /** @var array<string, string> */
    public array $servers = [];

    public static function make(bool $scope = true): self
    {
        $w = new self;
        $suffix = bin2hex(random_bytes(3));
        $w->space = Space::query()->findOrFail(
            $w->did(Directory\MakeSpace::fromInput(['name' => "Core $suffix"]))->ledgers[0]->written[0]->id,
        );
        foreach (['planner', 'operator', 'reader', 'steward', 'approver'] as $role) {
            $w->people[$role] = $w->person("$role-$suffix", [$role]);
        }
        foreach (
            [
                'ns1' => ['dns', '192.0.2.53'], 'ns2' => ['dns', '192.0.2.54'], 'dh1' => ['dhcp', '192.0.2.67'],
                'dh2' => ['dhcp', '192.0.2.68'],
            ] as $name => [$kind, $address]
        ) {
            $act = Directory\MakeServer::fromInput([
                'name' => "$name-$suffix", 'kind' => $kind, 'endpoint' => '127.0.0.1:9', 'control' => '127.0.0.1:9', 'token' => 't',
                'address' => $address,
            ]);
            $w->did($act);
            $w->servers[$name] = $act->id;
        }
        $view = Directory\MakeView::fromInput(['name' => "inside-$suffix", 'clients' => ['192.0.2.0/24', '127.0.0.0/8']]);
        $w->did($view);
        $w->view = $view->id;
        $w->top = $w->carve('192.0.2.0/24', ['kind' => 'supernet', 'stage' => 'live', 'name' => 'Quay']);
        $w->subnet = $w->carve('192.0.2.0/25', ['name' => 'Ticketing', 'stage' => 'live']);
        $w->did(new ChangePrefix([$w->subnet->id], gateway: '192.0.2.1'));
        $w->subnet->refresh();
        $w->zone = $w->zone("quay-$suffix.example");
        $w->reverse = $w->zone('2.0.192.in-addr.arpa');
        if ($scope) {
            $act = MakeScope::fromInput([
                'prefix' => $w->subnet->id, 'name' => "Ticketing $suffix", 'ranges' => ['192.0.2.60-192.0.2.100'],
                'servers' => [$w->servers['dh1'], $w->servers['dh2']], 'dns' => '192.0.2.53', 'domain' => 'quay.example',
                'divide' => '1',
            ]);
            $w->did($act);
            $w->scope = Scope::query()->findOrFail($act->id);
        }

        return $w;
    }

    public function acts(): Acts
    {
        return app(Acts::class);
    }

    /** Commits and insists. */
    public function did(Act $act, ?Person $by = null): Outcome
    {
        $outcome = $this->acts()->commit($by, [$act], [], $by === null ? null : 'checked');
        if ($outcome->blocked()) {
            throw new \RuntimeException($act->title().': '.($outcome->block()->message ?? $outcome->trouble));
        }

        return $outcome;
    }

    /**
     * The code that stops an act of these inputs: that of the inputs themselves, or of the act.
     *
     * @param  class-string<Act>  $class
     * @param  array<string, mixed>  $input
     */
    public function refusal(string $class, array $input, ?Person $by = null): ?string
    {
        try {
            return $this->acts()->rehearse($by, [$class::fromInput($input)])->block()?->code;
        } catch (BadInput $e) {
            return $e->notes[0]->code;
        }
    }

    /** @param  list<string>  $roles */
    public function person(string $signIn, array $roles, string $tenant = ''): Person
    {
        $act = Directory\MakePerson::fromInput([
            'signIn' => $signIn, 'name' => ucfirst($signIn), 'password' => 'a-long-password', 'roles' => $roles, 'tenant' => $tenant,
        ]);
        $this->did($act);

        return Person::query()->findOrFail($act->id);
    }

    /** A tenant's own admin, who sees one subnet and nothing of the rest. */
    public function bound(): Person
    {
        $tenant = Directory\MakeTenant::fromInput(['name' => 'Authority '.bin2hex(random_bytes(3))]);
        $this->did($tenant);
        $this->did(new ChangePrefix([$this->carve('192.0.2.128/26', ['name' => 'Gates', 'stage' => 'live'])->id], tenant: $tenant->id));

        return $this->person('quill-'.bin2hex(random_bytes(3)), ['tenant-admin'], $tenant->id);
    }

    /** @param  array<string, mixed>  $more */
    public function carve(string $prefix, array $more = []): Prefix
    {
        $act = CarvePrefix::fromInput(['space' => $this->space->id, 'prefix' => $prefix] + $more);
        $this->did($act);

        return Prefix::query()->findOrFail($act->id);
    }

    public function zone(string $name): Zone
    {
        $act = MakeZone::fromInput([
            'name' => $name, 'view' => $this->view, 'servers' => [$this->servers['ns1'], $this->servers['ns2']],
            'nameServers' => 'ns1.quay.example. ns2.quay.example.',
        ]);
        $this->did($act);

        return Zone::query()->findOrFail($act->id);
    }
}
