@php
  $me = auth()->user();
  $planner = $me->does(\App\Models\Role::Planner) && !$me->isBound();
  $steward = $me->does(\App\Models\Role::Steward);
  $labels = [
      'sites' => 'Sites',
      'tenants' => 'Tenants',
      'spaces' => 'Spaces',
      'vlans' => 'VLANs',
      'domains' => 'Layer-2 domains',
      'devices' => 'Devices',
      'people' => 'People',
  ];
  $nouns = ['sites' => 'site', 'tenants' => 'tenant', 'spaces' => 'space', 'domains' => 'layer-2 domain', 'devices' => 'device'];
  $form = $list === 'people' ? $steward : ($list === 'devices' ? $planner || $me->does(\App\Models\Role::Operator) : $planner);
  // As they stand: sites in each other.
  $order = $list === 'sites' ? array_map(fn($s) => $s->id, $siteUse->sites()) : $rows->pluck('id');
  $in = \App\View\InRow::of($form && $list !== 'people' ? $order : [], request('row') ? request('edit') : null, "/directory/$list", [], ['row' => '1']);
@endphp
<x-layout :title="$labels[$list]" verb="directory" work="make" does="make one">
  @include('directory.nav', ['current' => $list])
<header class="title">
  <h1>{{ $labels[$list] }}</h1>
  <span class="soft">{{ $rows->count() }}{{ $list === 'sites' ? '; counts and use of IPv4 subnets with those of all sites inside' : '' }}</span>
  @if (request('number'))
    <span>with number {{ request('number') }} <a href="/directory/vlans">Show all</a></span>
  @endif
</header>
@if ($list === 'vlans')
  <div class="bar-line flat"><span class="oneof"><a href="/directory/vlans"
        @unless (request('wrong')) aria-current="true" @endunless>All</a>
      <a href="/directory/vlans?wrong=1" @if (request('wrong')) aria-current="true" @endif>{{ $wrong }} with something missing or
        different</a></span>
    <span class="soft">switches read {{ $read ? \Carbon\CarbonImmutable::parse($read)->diffForHumans() : 'never' }}</span>
    @unless ($me->isBound())
      <form method="post" action="/directory/vlans/read">@csrf
        <button class="btn small">Read them now</button>
      </form>
      @if ($network)
        <a class="btn small" href="/ship/server/{{ $network }}">Bring switches in step</a>
      @endif
      @endunless @if ($form)
        <a class="btn small" href="#make">Add VLANs</a>
      @endif
      @unless ($me->isBound())
        <a class="btn small" href="/directory/reach">Reach</a>
        <a class="btn small" href="/directory/ports">Ports</a>
      @endunless
      <a class="btn small" href="/plan/vlans.csv">CSV</a>
      <a class="btn small" href="/plan/vlans.json">JSON</a>
    </div>
    @if ($duplicates !== [])
      <section class="panel">
        <header>
          <h2>Seem to be one VLAN</h2>
          <span class="soft">the same number in two domains of one network</span>
        </header>
        <x-table label="Seem to be one VLAN">
          <tbody>
            @foreach ($duplicates as [$stays, $goes])
              <tr>
                <td class="num">{{ $stays->number }}</td>
                <td><a href="/directory/vlan/{{ $stays->id }}">{{ $stays->name }}</a> in {{ $stays->domain->name }}</td>
                <td><a href="/directory/vlan/{{ $goes->id }}">{{ $goes->name }}</a> in {{ $goes->domain->name }}</td>
                <td class="wrap">{{ $goes->description }}</td>
                @if ($form)
                  <td>
                    <form id="merge-{{ $goes->id }}" method="post" action="/act/merge-vlan" class="row">@csrf
                      <input type="hidden" name="_form" value="merge-{{ $goes->id }}">
                      <input type="hidden" name="vlan" value="{{ $goes->id }}"><input type="hidden" name="into"
                        value="{{ $stays->id }}">
                      <button class="btn small" name="then" value="preview">Merge into {{ $stays->domain->name }}</button>
                    </form>
                  </td>
                @endif
              </tr>
            @endforeach
          </tbody>
        </x-table>
      </section>
    @endif
  @endif
  <div class="split @if ($form && $list !== 'vlans') two @endif">
    <section class="panel">
      @if ($rows->isEmpty())
        <div class="empty">
          <h3>None yet</h3>
        </div>
      @else
        <x-table :label="$labels[$list]" data-worktable @class(['vlan-sheet' => $list === 'vlans'])>
          @switch($list)
            @case('sites')
              <thead>
                <tr>
                  <th>Site</th>
                  <th>In</th>
                  <th>Owner</th>
                  <th class="num">Prefixes</th>
                  <th class="num">In use</th>
                  <th class="num">Usable</th>
                  <th>Waterline</th>
                  @if ($form)
                    <th class="act"></th>
                  @endif
                </tr>
              </thead>
              <tbody>
                @foreach ($siteUse->sites() as $r)
                  @php
                    $use = $siteUse->use($r);
                  @endphp
                  <tr @class(['editing' => $in->is($r->id)]) data-row="{{ $r->id }}">
                    @if ($in->is($r->id))
                      <td><x-field bare form="changeit" name="name" label="Name" :value="$r->name" autofocus /></td>
                      <td><x-field bare form="changeit" name="parent" label="In" pick="site" none="-" blank="nothing" :value="$r->parent_id ?? '-'"
                          :shown="$r->parent->name ?? ''" /></td>
                    @else
                      <td class="name inside-{{ min(6, $siteUse->depth($r)) }}"><a href="/directory/site/{{ $r->id }}">{{ $r->name }}</a></td>
                      <td>{{ $r->parent?->name }}</td>
                    @endif
                    <td>{{ $owner->words($r) }}</td>
                    <td class="num">{{ $siteUse->prefixes($r) ?: '' }}</td>
                    <td class="num">{{ $use['usable'] > 0 ? number_format($use['used']) : '' }}</td>
                    <td class="num">{{ $use['usable'] > 0 ? number_format($use['usable']) : '' }}</td>
                    <td>
                      @if ($use['usable'] > 0)
                        {{ \App\View\Draw::gauge($use['percent'], round($use['percent']) . '%', $use['percent'] >= (float) config('harbor.high_water')) }}
                      @endif
                    </td>
                    @if ($form)
                      <x-row-act :$in :id="$r->id" :label="$r->name" />
                    @endif
                  </tr>
                @endforeach
              </tbody>
            @break

            @case('vlans')
              <thead>
                <tr>
                  <th class="num">VLAN</th>
                  <th>Name</th>
                  <th>Domain</th>
                  @foreach (\App\Queries\VlanSheet::COLUMNS as $c)
                    <th>{{ $c }}</th>
                  @endforeach
                  @if ($form)
                    <th class="act"></th>
                  @endif
                </tr>
              </thead>
              <tbody>
                @foreach ($rows as $r)
                  <tr @class(['editing' => $in->is($r->id)]) data-row="{{ $r->id }}">
                    @if ($in->is($r->id))
                      <td class="num"><x-field bare form="changeit" name="number" label="Number" :value="$r->number" class="num" /></td>
                      <td><x-field bare form="changeit" name="name" label="Name" :value="$r->name" autofocus /></td>
                    @else
                      <td class="num">{{ $r->number }}</td>
                      <td class="name"><a href="/directory/vlan/{{ $r->id }}">{{ $r->name }}</a></td>
                    @endif
                    <td>{{ $r->domain->name }}</td>
                    @foreach ($sheet[$r->id] as $cell)
                      <td class="wrap">{{ \App\View\Draw::cell($cell) }}</td>
                    @endforeach
                    @if ($form)
                      <x-row-act :$in :id="$r->id" :label="$r->name" />
                    @endif
                  </tr>
                @endforeach
              </tbody>
            @break

            @case('people')
              @include('directory.people')
            @break

            @default
              <thead>
                <tr>
                  <th>Name</th>
                  @if ($list !== 'tenants')
                    <th>{{ ['devices' => 'Kind', 'spaces' => 'Route distinguisher', 'domains' => 'Site'][$list] }}</th>
                  @endif
                  @if ($list === 'devices')
                    <th>Owner</th>
                  @endif
                  <th class="num">{{ ['devices' => 'Addresses', 'domains' => 'VLANs'][$list] ?? 'Prefixes' }}</th>
                  @if ($form)
                    <th class="act"></th>
                  @endif
                </tr>
              </thead>
              <tbody>
                @foreach ($rows as $r)
                  <tr @class(['editing' => $in->is($r->id)]) data-row="{{ $r->id }}">
                    @if ($in->is($r->id))
                      <td><x-field bare form="changeit" name="name" label="Name" :value="$r->name" autofocus /></td>
                    @else
                      <td class="name">
                        @if ($form)
                          <a href="/directory/{{ $list }}?edit={{ $r->id }}#change">{{ $r->name }}</a>
                        @else
                          {{ $r->name }}
                        @endif
                      </td>
                    @endif
                    @if ($list === 'devices' && $in->is($r->id))
                      <td><x-field bare form="changeit" name="kind" label="Kind" :value="$r->kind" /></td>
                    @elseif ($list === 'spaces' && $in->is($r->id))
                      <td><x-field bare form="changeit" name="routeDistinguisher" label="Route distinguisher, - for none" mono
                          :value="$r->route_distinguisher ?? ''" /></td>
                    @elseif ($list === 'domains' && $in->is($r->id))
                      <td><x-field bare form="changeit" name="site" label="Site" pick="site" none="-" blank="none" :value="$r->site_id ?? '-'"
                          :shown="$r->site?->name ?? ''" /></td>
                    @elseif ($list !== 'tenants')
                      <td>{{ $list === 'domains' ? $r->site?->name : ($list === 'spaces' ? $r->route_distinguisher : $r->kind) }}</td>
                    @endif
                    @if ($list === 'devices')
                      <td>{{ $owner->words($r) }}</td>
                    @endif
                    <td class="num">{{ $counts[$r->id] ?? '' }}</td>
                    @if ($form)
                      <x-row-act :$in :id="$r->id" :label="$r->name" />
                    @endif
                  </tr>
                @endforeach
              </tbody>
          @endswitch
        </x-table>
      @endif
    </section>
    @if ($form)
      <div @class([
          'side' => $list !== 'vlans',
          'stack narrow' => $list === 'vlans',
      ])>
        @if ($in->id !== null)
          @include('directory.row-form')
        @elseif ($edited && isset($nouns[$list]))
          @include('directory.change', ['noun' => $nouns[$list], 'row' => $edited])
        @endif
        <section class="panel">
          <header>
            <h2>Add a {{ ['vlans' => 'VLAN', 'people' => 'person'][$list] ?? $nouns[$list] }}</h2>
          </header>
          <div class="pad">
            @switch($list)
              @case('sites')
                <x-act id="make" action="make-site">
                  <x-field form="make" name="name" label="Name" />
                  <x-field form="make" name="parent" label="In" pick="site" blank="none" /></x-act>
              @break

              @case('tenants')
                <x-act id="make" action="make-tenant">
                  <x-field form="make" name="name" label="Name" />
                </x-act>
              @break

              @case('spaces')
                <x-act id="make" action="make-space">
                  <x-field form="make" name="name" label="Name" />
                  <x-field form="make" name="routeDistinguisher" label="Route distinguisher, if any" mono hint="RFC 4364: 64512:10" />
                  <x-field form="make" name="description" label="Description" />
                </x-act>
              @break

              @case('domains')
                <x-act id="make" action="make-domain">
                  <x-field form="make" name="name" label="Name, as the switches call it" />
                  <x-field form="make" name="site" label="Site" pick="site" blank="none" />
                </x-act>
              @break

              @case('devices')
                <x-act id="make" action="make-device">
                  <x-field form="make" name="name" label="Name" />
                  <x-field form="make" name="kind" label="Kind" />
                  <x-field form="make" name="site" label="Site" pick="site" blank="none" />
                </x-act>
              @break

              @case('people')
                <x-act id="make" action="make-person">
                  <div class="pair">
                    <x-field form="make" name="signIn" label="Sign-in name" mono />
                    <x-field form="make" name="name" label="Name" />
                  </div>
                  <x-field form="make" name="password" label="Password" type="password" autocomplete="new-password"
                    hint="at least 12 characters" />
                  <x-field form="make" name="roles[]" label="Roles" :options="collect(\App\Models\Role::cases())
                      ->mapWithKeys(fn($r) => [$r->value => str_replace('-', ' ', $r->value) . ': ' . $r->explained()])
                      ->all()" multiple />
                  <x-field form="make" name="tenant" label="Tenant, for a tenant's own admin" :options="$choices->tenants()" blank="none" />
                </x-act>
              @break

              @case('vlans')
                <x-act id="make" action="make-vlan" :stay="request()->getRequestUri()">
                  <div class="pair">
                    <x-field form="make" name="number" label="Number" inputmode="numeric" />
                    <x-field form="make" name="name" label="Name on the switch" />
                  </div>
                  <x-field form="make" name="domain" label="Layer-2 domain" :options="$choices->domains()" />
                  <x-field form="make" name="description" label="Description" />
                  <x-check form="make" name="another" label="then add another like it" />
                </x-act>
              @break
            @endswitch
          </div>
        </section>
        <x-follows-slot form="make" />
        @if ($list === 'vlans')
          <details class="panel" @if (old('_form') === 'series') open @endif>
            <summary class="bar-line"><b>Add a series</b></summary>
            <div class="pad">
              <x-act id="series" action="make-vlan-series" :stay="request()->getRequestUri()">
                <x-field form="series" name="numbers" label="Numbers" mono placeholder="200-209, or 200-290/10, or 110, 120" />
                <x-field form="series" name="name" label="Name, {n} is the number, {i} counts" mono value="VLAN-{n}" />
                <x-field form="series" name="domain" label="Layer-2 domain" :options="$choices->domains()" />
                <x-field form="series" name="description" label="Description" /></x-act>
            </div>
          </details>
          <div id="follows-series"></div>
          <details class="panel" @if (old('_form') === 'vlantable') open @endif>
            <summary class="bar-line"><b>Take in a table</b> <span class="soft">CSV or JSON</span></summary>
            <div class="pad">
              <x-act id="vlantable" action="import-vlans" :stay="request()->getRequestUri()">
                <x-field form="vlantable" name="table" label="domain, number, name, description" rows="6" mono />
              </x-act>
            </div>
          </details>
          <div id="follows-vlantable"></div>
          <details class="panel" @if ($choices->domains() === []) open @endif>
            <summary class="bar-line"><b>Add a layer-2 domain</b></summary>
            <div class="pad">
              <x-act id="domain" action="make-domain">
                <x-field form="domain" name="name" label="Name" />
                <x-field form="domain" name="site" label="Site" pick="site" blank="none" /></x-act>
            </div>
          </details>
          <div id="follows-domain"></div>
        @endif
      </div>
    @endif
  </div>
</x-layout>
