<x-layout :title="$prefix->name ?: (string) $net" verb="plan" work="carve" does="carve a prefix" edit="panel-change-form">
  @if ($tops !== [])
    @include('plan.spaces', ['current' => $prefix->space])
  @else
    @include('plan.above')
  @endif
  <header class="title">
    <h1>{{ $prefix->name ?: $prefix->kind->value }}</h1>
    @if (count($tops) > 1)
      <span class="oneof mono" aria-label="Top prefixes">
        @foreach ($tops as $t)
          <a href="{{ at('plan.prefix', $t->id) }}" @if ($t->id === $prefix->id) aria-current="true" @endif>{{ $t->prefix() }}</a>
        @endforeach
      </span>
    @else
      <span class="mono">{{ $net }}</span>
    @endif
    <span
      class="soft">
      @php
        $origin = implode(', ', array_filter([$prefix->origin, $prefix->origin_on?->format('j M Y'), $prefix->origin_handle]));
        $words = [$prefix->stage->value, $level->words, $prefix->site?->name, $prefix->origin ? "origin: $origin" : null];
      @endphp
      {{ implode(', ', array_filter($words)) }}
    </span>
    @include('plan.favourite') @include('plan.legend')
  </header>
  @if ($zoom)
    <div class="notice"><span class="grow">Zoomed to <span class="mono">{{ $zoom }}</span></span>
      <a href="{{ at('plan.prefix', $prefix->id) }}">Show all of {{ $net }}</a>
    </div>
  @endif
  @if ($prefix->groups)
    @include('parts.ruler')
  @endif
  <div @class([
      'split',
      'three' => $mayCarve || $mayPlan,
      'two' => !$mayCarve && !$mayPlan,
  ])>
    <section class="panel">
      <header>
        <h2>{{ $prefix->name ?: $net }}</h2>
        <span class="soft">{{ number_format($prefix->children) }} inside, {{ $level->figure }} carved; waterline: space carved, or addresses in use
          of usable</span>
      </header>
      @if ($prefix->groups)
        <div class="bar-line">
          <form class="find" action="{{ at('plan.prefix', $prefix->id) }}"><label class="sr" for="filter">Filter</label><svg viewBox="0 0 16 16"
              fill="none" stroke="currentColor" stroke-width="1.5" aria-hidden="true">
              <circle cx="7" cy="7" r="4.500" />
              <path d="m10.500 10.500 4 4" />
            </svg><input type="search" id="filter" name="filter" value="{{ $filter }}" placeholder="name, site:, stage:, tag:, above:80"
              data-help-key="f" data-help-text="filter this list"><kbd aria-hidden="true">f</kbd></form>
          @if ($mayCarve)
            <span class="end row" data-needs-pick hidden>
              <x-all-match field="prefixes" list="inside" :within="$prefix->id" :$filter :total="$allInside"
                :shown="count(array_filter($list['rows'], fn($r) => $r instanceof App\Models\Prefix))" form="bulk" />
              <b><span data-picked>0</span> picked</b>
              <a class="btn small" href="#bulk-panel" data-open="bulk-panel">Edit all picked</a></span>
          @endif
        </div>
        @if ($list['rows'] === [])
          <div class="empty">
            <h3>{{ $filter === '' ? 'Nothing is inside' : ($misread === [] ? 'Nothing matches "' . $filter . '"' : 'The filter is not understood') }}
            </h3>
            @foreach ($misread as $m)
              <p>{{ $m }}</p>
              @endforeach @if ($filter !== '')
                <p><a href="{{ at('plan.prefix', $prefix->id) }}">Show all</a></p>
              @endif
          </div>
        @else
          @include('plan.rows', [
              'rows' => $list['rows'],
              'next' => $list['next'],
              'pick' => $mayCarve,
              'above' => $prefix,
              'sorted' => $sorted,
              'order' => $order,
              'open' => isset($proposals[0]) ? (string) $proposals[0]['net'] : (string) $largest,
          ])
        @endif
      @else
        <div class="empty">
          <h3>A pool</h3>
          <p class="soft">Addresses of a pool are handed out whole; it is no link, so no hosts live here.</p>
        </div>
        @if ($handed)
          @include('plan.handed-out')
        @endif
      @endif
    </section>
    @if ($mayCarve || $mayPlan)
      <div class="stack">
        @if ($mayCarve && $prefix->groups)
          <section class="panel" id="carve-panel">
            <header>
              <h2>Carve a subnet</h2>
            </header>
            <div class="pad">
              @if ($largest === null)
                <p class="soft">Nothing is open here.</p>
              @else
                <x-act id="carve" action="carve-prefix" x-data="hosts">
                  <input type="hidden" name="space" value="{{ $prefix->space_id }}">
                  <input type="hidden" name="in" value="{{ $prefix->id }}">
                  <x-field form="carve" name="name" label="Name" />
                  <div class="pair">
                    @if ($prefix->family === 4)
                      <div class="field"><span><label for="carve-hosts">Hosts needed</label></span><input id="carve-hosts" x-model="needed"
                          x-on:change="pick" inputmode="numeric" name="" autocomplete="off"></div>
                    @endif
                    {{-- It waits in no line with the looks of the form: there only the last one that waits is kept. --}}
                    <div class="field"><span><label for="carve-length">Size</label></span>
                      <select id="carve-length" name="length" hx-get="{{ at('plan.prefix', $prefix->id) }}" hx-trigger="change" hx-target="#places"
                        hx-select="#places" hx-swap="outerHTML" hx-include="this" hx-sync="this:replace">
                        @php
                        $six = $prefix->family !== 4;
                        @endphp
                      @for ($l = $prefix->length + 1; $l <= ($six ? 128 : 32); $l += $six && $l < 64 ? 4 - ($l % 4) : 1)
                          @continue($largest->length > $l || ($l > 64 && !in_array($l, [112, 127, 128]) && $prefix->family === 6))
                          <option value="{{ $l }}" data-usable="{{ $prefix->family === 4 ? \App\View\Level::usable(4, $l) : '0' }}"
                            @selected($l === (int) (old('_form') === 'carve' ? old('length', $length) : $length))>
                            /{{ $l }}{{ $six ? '' : ', ' . number_format(\App\View\Level::usable(4, $l)) }}
                          </option>
                        @endfor
                      </select>
                    </div>
                  </div>
                  <fieldset id="places">
                    <legend>Where it fits</legend>
                    @foreach ($proposals as $i => $p)
                      @php
                        $whole = $p['net']->equals($p['inside']);
                        $inside = $p['inside']->length;
                      @endphp
                      <label class="choice">
                        <input type="radio" name="fit-place" value="{{ $p['net'] }}" @checked($i === 0 && !request()->query('prefix'))>
                        <span class="mono">{{ $p['net'] }}</span>
                        <span class="hint">{{ $whole ? "fills the open /$inside" : $p['fit']->explained() . ", from the open /$inside" }}</span>
                      </label>
                  @endforeach
                  @if ($proposals === [])
                    <p class="hint">No open /{{ $length }} is left; the largest open block is {{ $largest }}.</p>
                  @endif
                  <x-field
                    form="carve"
                    name="prefix"
                    label="Prefix, or choose open space on the ruler"
                    mono
                    :value="request()->query('prefix', isset($proposals[0]) ? (string) $proposals[0]['net'] : '')"
                  />
                </fieldset>
                <div class="pair">
                  <x-field form="carve" name="kind" label="Kind" :options="\App\Models\PrefixKind::choices()" value="subnet" />
                  <x-field
                    form="carve"
                    name="stage"
                    label="Stage"
                    :options="\App\Models\Stage::choices()"
                  />
                </div>
                <x-field form="carve" name="site" label="Site" pick="site" blank="none" :value="$prefix->site_id ?? ''" :shown="$prefix->site->name ?? ''" />
                <x-field form="carve" name="vlan" label="VLAN" pick="VLAN" blank="number or name" />
                <details class="more">
                  <summary>Gateway, tenant, role, tags</summary>
                  <div class="form">
                    <x-field form="carve" name="gateway" label="Gateway" mono value="habit"
                      hint="habit is what the place hands down; first, last, an address, or blank for none" />
                    <x-field
                      form="carve"
                      name="tenant"
                      label="Tenant"
                      :options="$choices->tenants()"
                      :blank="$prefix->tenant ? 'inherited: ' . $prefix->tenant->name : 'none'"
                    />
                    <x-field form="carve" name="role" label="Role" />
                    <x-field form="carve" name="tags" label="Tags, apart by commas" />
                    @include('plan.own-fields', ['form' => 'carve', 'values' => [], 'blank' => false])
<x-field form="carve" name="description" label="Description" />
                  </div>
                </details>
                <x-check form="carve" name="another" label="then add another like it" />
              </x-act>
            @endif
          </div>
        </section>
      @endif
      @if ($mayPlan)
        @include('plan.lazy', ['panel' => 'change-form', 'title' => 'Edit this prefix', 'more' => '', 'forms' => ['change', 'remove']])
      @endif
      @if ($mayCarve && $prefix->groups)
        @include('plan.lazy', [
            'panel' => 'bulk-form',
            'title' => 'Edit all picked',
            'more' => '',
            'forms' => ['bulk'],
            'id' => 'bulk-panel',
        ])
      @endif
      @if ($mayPlan)
        @include('plan.lazy', [
            'panel' => 'reshape',
            'title' => 'Reshape',
            'more' => 'split, merge, grow, shrink, move',
            'forms' => ['split', 'merge', 'resize'],
        ])
      @endif
    </div>
  @endif
  <aside class="side">
    @if ($mayCarve && $prefix->groups && $largest !== null)
      <x-follows-slot form="carve" />
      @endif
      @if ($mayCarve || $mayPlan)
        <div id="follows-change">
          @unless ($prefix->groups && $largest !== null)
            <div id="follows-carve"></div>
          @endunless
        </div>
      @endif
      @if ($favourites !== [])
        <section class="panel">
          <header>
            <h2>At hand</h2>
          </header>
          <table>
            <tbody>
              @foreach ($favourites as $f)
                <tr>
                  <td class="wrap"><a href="{{ at('plan.prefix', $f->id) }}">{{ $f->name ?: $f->prefix() }}</a></td>
                  <td class="mono">{{ $f->prefix() }}</td>
                </tr>
              @endforeach
            </tbody>
          </table>
        </section>
      @endif
      @if ($first !== [])
        <section class="panel">
          <header>
            <h2>Fills first</h2>
          </header>
          <table>
            <tbody>
              @foreach ($first as $f)
                <tr>
                  <td class="wrap"><a href="{{ at('plan.prefix', $f['prefix']->id) }}">{{ $f['prefix']->name ?: $f['prefix']->prefix() }}</a>,
                    {{ round($f['percent']) }}%<br><span
                      class="hint">{{ implode(', ', array_filter([$f['prefix']->site?->name, (string) $f['prefix']->prefix()])) }}</span></td>
                  <td class="wrap">{{ \App\View\ForecastWords::next($f['trend'], $f['percent'], $today) }}</td>
                </tr>
              @endforeach
            </tbody>
          </table>
          <p class="pad hint">By daily samples: the median of all slopes (Theil and Sen), its spread in brackets.</p>
        </section>
      @endif
      <section class="panel">
        <header>
          <h2>Facts</h2>
          <span class="end row"><a class="btn small" href="{{ at('plan.prefix.print', $prefix->id) }}">Print</a></span>
        </header>
        <dl class="facts pad">@include('plan.facts')</dl>
      </section>
      @include('plan.lazy', ['panel' => 'flow', 'title' => 'Settings that flow down', 'more' => '', 'forms' => ['setting']])
  </aside>
</div>
</x-layout>
