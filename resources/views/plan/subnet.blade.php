@php
  $me = auth()->user();
  $short = fn($a) => $net->family()->value === 4 && $net->length >= 24 ? '.' . explode('.', (string) $a)[3] : (string) $a;
  $where = fn($r) => $r->range->first->equals($r->range->last)
      ? $short($r->range->first)
      : $short($r->range->first) . ' to ' . $short($r->range->last);
  $kept = ['filter' => $filter, 'from' => request('from'), 'sort' => request('sort'), 'page' => request('page')];
  $in = \App\View\InRow::of($mayPlace && $hosts ? $hosts->rows->pluck('id') : [], request('edit'), at('plan.prefix', $prefix->id), $kept);
  $one = match (true) {
      $in->id !== null => $hosts?->rows->firstWhere('id', $in->id),
      $mayPlace && $wanted !== null => $hosts?->rows->first(fn($h) => $h->address->equals($wanted)),
      default => null,
  };
@endphp
<x-layout :title="($prefix->name ?: 'Subnet') . ' ' . $net" verb="plan" work="place" does="place a host" edit="panel-change-form">
  @include('plan.above')
  <header class="title">
    <h1>{{ $prefix->name ?: 'Subnet' }}</h1>
    <span class="mono">{{ $net }}</span>
    <span
      class="soft">{{ implode(', ', array_filter([
          $prefix->stage->value,
          $prefix->site?->name,
          $prefix->vlan ? 'VLAN ' . $prefix->vlan->line() : null,
      ])) }}</span>
    <span class="end row soft">{{ \App\View\Draw::gauge($level->percent, $level->words, $level->high) }} @include('plan.favourite')</span>
  </header>
  <section class="panel">
    <dl class="facts wide pad-all" aria-label="Facts">
      <div>
        <dt>Usable</dt>
        <dd>{{ strlen($facts['usable']) < 13 ? number_format((int) $facts['usable']) : 'nearly 2^' . (128 - $facts['length']) }}</dd>
      </div>
      <div>
        <dt>Mask</dt>
        <dd class="mono">{{ $net->family()->value === 4 ? $facts['mask'] : '/' . $facts['length'] }}</dd>
      </div>
      <div>
        <dt>Gateway</dt>
        <dd class="mono">{{ $prefix->gateway ?? 'none' }}</dd>
      </div>
      <div>
        <dt>First to last usable</dt>
        <dd class="mono">{{ $facts['first_usable'] }} to {{ $facts['last_usable'] }}</dd>
      </div>
      <div>
        <dt>Reverse zone</dt>
        <dd class="mono">{{ $facts['reverse_zones'][0] }}@if (count($facts['reverse_zones']) > 1)
            +{{ count($facts['reverse_zones']) - 1 }}
          @endif
        </dd>
      </div>
      <div>
        <dt>Scope</dt>
        <dd>
          @if ($scope)
            <a href="{{ at('lease.scope', $scope->id) }}">{{ $scope->name }}</a>
          @elseif($net->family()->value === 4)
            none @if ($me->does(\App\Models\Role::Operator))
              <a href="{{ at('lease') }}?make={{ $prefix->id }}">make one</a>
            @endif
          @else
            none
          @endif
        </dd>
      </div>
      <div>
        <dt>Served by</dt>
        <dd>
          {{ implode(', ', $served['names']) ?: 'no name server' }}{{ $served['leases'] === [] ? '' : '; leased by ' . implode(', ', $served['leases']) }}
          @foreach ($served['gaps'] as $g)
            <br>
            <span class="warn">
              @mark('warn')
              @if ($g['link'] && !$me->isBound())
                <a href="{{ $g['link'] }}">{{ $g['words'] }}</a>
              @else
                {{ $g['words'] }}
              @endif
            </span>
          @endforeach
        </dd>
      </div>
      <div>
        <dt>Tenant</dt>
        <dd>{{ $prefix->tenant?->name ?? 'none' }}@if ($prefix->tenant && $prefix->tenant_id === null)
            <span class="open">inherited</span>
          @endif
        </dd>
      </div>
    </dl>
  </section>
  @include('parts.runs')
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>{{ $evidence ? 'Evidence' : 'Hosts' }}</h2>
          <span class="soft">{{ number_format($prefix->used) }} {{ Str::plural('address', $prefix->used) }} given</span>
          <span class="oneof end"><a href="{{ at('plan.prefix', $prefix->id) }}"
              @unless ($evidence) aria-current="true" @endunless>Hosts</a>
            <a href="?show=evidence" @if ($evidence && !$conflicts) aria-current="true" @endif>Evidence</a>
            <a href="?show=conflicts" @if ($conflicts) aria-current="true" @endif>What disagrees</a></span>
          <a class="btn small" href="{{ at('plan.prefix.addresses', $prefix->id, 'csv') }}">CSV</a>
          <a class="btn small" href="{{ at('plan.prefix.addresses', $prefix->id, 'json') }}">JSON</a>
          <a class="btn small" href="{{ at('plan.prefix.print', $prefix->id) }}">Print</a>
          @if ($mayPlace && !$me->isBound())
            <a class="btn small" href="{{ at('plan.space.scans', $prefix->space_id) }}?prefixes[]={{ $prefix->id }}">Scan</a>
          @endif
        </header>
        @if ($evidence)@include('plan.evidence')
        @else
          <div class="bar-line">
            <form class="find" action="{{ at('plan.prefix', $prefix->id) }}"><label class="sr" for="filter">Filter</label><svg
                viewBox="0 0 16 16" fill="none" stroke="currentColor" stroke-width="1.5" aria-hidden="true">
                <circle cx="7" cy="7" r="4.500" />
                <path d="m10.500 10.500 4 4" />
              </svg><input type="search" id="filter" name="filter" value="{{ $filter }}"
                placeholder="start of a name, an address or a MAC"><kbd aria-hidden="true">f</kbd></form>
            @if ($mayPlace)
              <span class="end row" data-needs-pick hidden>
                <x-all-match field="hosts" list="hosts" :within="$prefix->id" :$filter :total="$hosts->total" :shown="$hosts->rows->count()" form="hostbulk" />
                <b><span data-picked>0</span> picked</b>
                <a class="btn small" href="#hosts-panel" data-open="hosts-panel">Edit all picked</a>
                <form id="releasehosts" method="post" action="{{ at('act', 'release-hosts') }}" hx-post="{{ at('act', 'release-hosts') }}"
                  hx-target="#follows-hostbulk" data-takes-picks="hosts[]">
                  @csrf
                  <input type="hidden" name="_form" value="releasehosts">
                  <input type="hidden" name="prefix" value="{{ $prefix->id }}">
                  <button class="btn stop small" name="then" value="preview">Release</button>
                </form>
              </span>
            @endif
          </div>
          @if ($hosts->rows->isEmpty())
            <div class="empty">
              <h3>{{ $filter === '' ? 'No hosts yet' : 'No host matches "' . $filter . '"' }}</h3>
              <p class="soft">
                @if ($filter === '')
                  Place the first one at the right: it gets its address, its name both ways and, where asked, its reservation in one act.
                @else
                  Names are searched from their start.
                @endif
              </p>
            </div>
          @else
            <x-table label="Hosts" data-worktable data-paged>
              <thead>
                <tr>
                  @if ($mayPlace)
                    <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                  @endif
                  <x-head :list="$hosts" by="address">Address</x-head>
                  <x-head :list="$hosts" by="name">Name</x-head>
                  <x-head :list="$hosts" by="mac">MAC</x-head>
                  <x-head :list="$hosts" by="role">Role</x-head>
                  <th>In DNS</th>
                  <th>Reserved</th>
                  <x-head :list="$hosts" by="device">Device</x-head>
                </tr>
              </thead>
              <tbody>
                @foreach ($hosts->rows as $h)
                  @php
                    $own = $records[$h->id] ?? collect();
                  @endphp
                  <tr @class(['drafted' => isset($touched["address:$h->id"]), 'editing' => $in->is($h->id)]) data-row="{{ $h->id }}"
                    title="{{ $touched["address:$h->id"] ?? '' }}" @if ($one?->is($h)) aria-selected="true" @endif>
                    @if ($mayPlace)
                      <td class="pickcell"><input type="checkbox" class="pick" form="hostbulk" name="hosts[]" value="{{ $h->id }}"
                          aria-label="Pick {{ $h->address }}"></td>
                    @endif
                    @if ($in->is($h->id))
                      <td>
                        <x-field bare form="changehost" name="address" label="Address" mono :value="(string) $h->address" />
                      </td>
                      <td>
                        <x-field bare form="changehost" name="name" label="Name" mono :value="$h->name === '' ? '' : $h->name . '.'" autofocus />
                      </td>
                      <td>
                        <x-field bare form="changehost" name="mac" label="MAC" mono :value="(string) $h->mac" />
                      </td>
                    @else
                      <td class="mono">
                        @if ($mayPlace)
                          <a href="{{ $in->into($h->id) }}" data-inrow aria-label="Change {{ $h->address }}">{{ $h->address }}</a>
                        @else
                          {{ $h->address }}
                        @endif
                      </td>
                      <td class="name mono">
                        @if ($h->name === '')
                          <span class="open">no name</span>
                        @else
                          {{ $h->name }}
                        @endif
                      </td>
                      <td class="mono soft">{{ $h->mac }}</td>
                    @endif
                    <td>{{ $h->role }}</td>
                    <td>
                      @if ($own->isEmpty())
                        <span class="open">none</span>
                      @else
                        @foreach ($own as $rec)
                          @if (isset($zonesSeen[$rec->zone_id]))
                            <a href="{{ at('name.zone', $rec->zone_id) }}?filter={{ urlencode(rtrim($rec->owner, '.')) }}">{{ $rec->typeName() }}</a>
                          @else
                            {{ $rec->typeName() }}
                          @endif
                        @endforeach
                      @endif
                    </td>
                    <td>
                      @if (isset($reserved[$h->id]))
                        <a href="{{ at('lease.scope', $reserved[$h->id]->scope_id) }}">yes</a>
                      @else
                        <span class="open">no</span>
                      @endif
                    </td>
                    <td>
                      @if ($in->is($h->id))
                        <a href="{{ $in->out() }}" data-leave>Leave</a>
                      @else
                        {{ $h->device?->name }}
                      @endif
                    </td>
                  </tr>
                @endforeach
              </tbody>
              @if ($mayPlace && $in->id === null && $free !== [])
                <tfoot>
                  <tr class="addrow">
                    <td></td>
                    <td>
                      <x-field bare form="rowadd" name="address" label="Address of a new host" mono :placeholder="(string) $free[0]" />
                    </td>
                    <td>
                      <x-field bare form="rowadd" name="name" label="Name of a new host" mono placeholder="name, or a full one" />
                    </td>
                    <td>
                      <x-field bare form="rowadd" name="mac" label="MAC of a new host" mono placeholder="MAC" />
                    </td>
                    <td colspan="3"></td>
                    <td>
                      <button class="btn small" form="rowadd" name="then" value="preview">Place</button>
                    </td>
                  </tr>
                </tfoot>
              @endif
            </x-table>
            @if (request('from'))
              <p class="bar-line"><span class="soft">from <span class="mono">{{ request('from') }}</span> on</span>
                <a href="{{ request()->fullUrlWithQuery(['from' => null, 'page' => null]) }}">From the first</a></p>
            @endif
            <x-pages :list="$hosts" what="hosts" />
          @endif
        @endif
      </section>
      <section class="panel">
        <header>
          <h2>Runs</h2>
          <span class="soft">every address is in exactly one{{ $truncated ? "; $truncated" : '' }}</span>
        </header>
        <x-table label="Runs">
          <thead>
            <tr>
              <th>Run</th>
              <th>Kept for</th>
              <th class="num">Count</th>
              <th class="num">In use</th>
            </tr>
          </thead>
          <tbody>
            @foreach (array_slice($runs, 0, 200) as $r)
              <tr @class(['open' => $r->kind->isFree()])>
                <td class="mono">{{ $where($r) }}</td>
                <td>{{ $r->kind->label() }}</td>
                <td class="num">
                  @php
                    $bits = $r->range->size()->getBitLength();
                  @endphp
                  {{ $bits > 40 ? '2^' . $bits - 1 . '+' : number_format($r->range->size()->toInt()) }}
                </td>
                <td class="num">{{ $r->inUse ?: '' }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
        @if ($held->isNotEmpty())
          <header>
            <h3>Held</h3>
          </header>
          <table>
            <thead>
              <tr>
                <th>Run</th>
                <th>For</th>
                <th>Until</th>
                @if ($mayPlace)
                  <th></th>
                @endif
              </tr>
            </thead>
            <tbody>
              @foreach ($held as $h)
                <tr @class(['open' => !$h->holds(now())])>
                  <td class="mono">{{ $h->range() }}</td>
                  <td class="wrap">{{ $h->reason }}</td>
                  <td>{{ $h->until ? $h->until->format('j M Y') . ($h->holds(now()) ? '' : ', over') : 'no end' }}</td>
                  @if ($mayPlace)
                    <td>
                      <form method="post" action="{{ at('act', 'let-run-go') }}">@csrf
                        <input type="hidden" name="run" value="{{ $h->id }}">
                        <button class="btn small" name="then" value="commit" aria-label="Stop holding {{ $h->range() }}">Stop holding</button>
                      </form>
                    </td>
                  @endif
                </tr>
              @endforeach
            </tbody>
          </table>
          @endif @if (count($runs) > 200)
            <p class="bar-line hint">and {{ count($runs) - 200 }} more runs</p>
          @endif
      </section>
    </div>
    <div class="side">
      @if ($mayPlace && $in->id === null && $free !== [])
        <x-row-adds :$in action="place-host">
          <input type="hidden" name="prefix" value="{{ $prefix->id }}">
          <input type="hidden" name="zone" value="{{ $homeZone ?? '' }}">
          <input type="hidden" name="ptr" value="1">
        </x-row-adds>
      @endif
      @if ($one)
        <section class="panel">
          <header>
            <h2>Change {{ $one->address }}</h2>
          </header>
          <div class="pad">
            <x-act id="changehost" action="change-host" :seen="['address:' . $one->id => $one->version]" :stay="$in->out()" data-inrow
              :data-next="$in->next()">
              <input type="hidden" name="host" value="{{ $one->id }}">
              @if ($in->id !== null)
                <p class="hint">Its address, name and MAC are edited in the row; <kbd>Ctrl+Enter</kbd> writes it and goes on to the next,
                  <kbd>Esc</kbd> leaves it.</p>
              @else
                <x-field form="changehost" name="address" label="Address" mono :value="(string) $one->address" />
                <x-field form="changehost" name="name" label="Name" mono :value="$one->name === '' ? '' : $one->name.'.'" />
                <x-field form="changehost" name="mac" label="MAC" mono :value="(string) $one->mac" />
              @endif
              <x-field form="changehost" name="interface" label="Interface" mono :value="$one->interface" />
              <x-field form="changehost" name="description" label="Description" :value="$one->description" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="changehost" :row="$in->id !== null" />
      @endif
      @if ($mayPlace)
        <section class="panel">
          <header>
            <h2>Place a host</h2>
          </header>
          <div class="pad">
            @if ($free === [])
              <p class="wrong">@mark('stop')<span>No free address is left here.</span></p>
            @endif
            <x-act id="place" action="place-host">
              <input type="hidden" name="prefix" value="{{ $prefix->id }}">
              <x-field form="place" name="name" label="Name" mono />
              <x-field form="place" name="zone" label="Zone" pick="zone" only="forward" blank="no name in DNS" :value="$homeZone ?? ''"
                :shown="Str::before($choices->zones()[$homeZone ?? ''] ?? '', ',')" />
              <div class="pair">
                <x-field
                  form="place"
                  name="address"
                  label="Address"
                  mono
                  :placeholder="isset($free[0]) ? (string) $free[0] : 'none is free'"
                  hint="blank: next free"
                />
                <x-field form="place" name="mac" label="MAC" mono />
              </div>
              <div class="pair">
                <x-field form="place" name="ttl" label="TTL" placeholder="inherited" />
                <x-field
                  form="place"
                  name="role"
                  label="Role"
                  :options="array_combine(\App\Models\Host::ROLES, \App\Models\Host::ROLES)"
                />
              </div>
              <div class="row">
                <x-check form="place" name="ptr" label="name it back (PTR)" :on="true" />
                @if ($scope)
                  <x-check form="place" name="reserve" label="reserve the address" />
                @endif
              </div>
              @if ($net->family()->value === 6 && $net->length === 64)
                <x-field form="place" name="choose" label="Chosen by" :options="\App\Domain\Plan\Identifiers::WAYS" />
              @endif
              <details class="more">
                <summary>Device, owner, description</summary>
                <div class="form">
                  <div class="pair">
                    <x-field form="place" name="device" label="Device" pick="device" blank="none" />
                    <x-field form="place" name="interface" label="Interface" mono />
                  </div>
                  <x-field form="place" name="owner" label="Owner" />
                  <x-field form="place" name="description" label="Description" />
                </div>
              </details>
              <x-check form="place" name="another" label="then place another like it" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="place" />
        @include('plan.lazy', [
            'panel' => 'several',
            'title' => 'Place several',
            'more' => 'next ones, in a row, by a list',
            'forms' => ['several'],
        ])
        @include('plan.hosts-form')
        @include('plan.lazy', ['panel' => 'hold', 'title' => 'Hold a run', 'more' => 'kept from next free', 'forms' => ['hold']])
      @endif
      @if ($net->family()->value === 4)
        <section class="panel">
          <header>
            <h2>Use</h2>
          </header>
          @if ($samples === [])
            <p class="pad open">no samples yet; the first is kept tonight</p>
          @else
            <div class="pad fallbox">{{ \App\View\ForecastWords::chart($samples, $trend, $today) }}
              <p><b>{{ number_format($level->percent, 1) }}%</b> now;
                @php
                $levels = $trend && $trend->kind === 'rising' ? \App\View\ForecastWords::LEVELS : [80];
                $spread = $trend ? sprintf('%+.2f to %+.2f', 30 * $trend->slopeLow, 30 * $trend->slopeHigh) : '';
                $slope = $trend && $trend->kind !== 'few' ? sprintf(', %+.2f points a month (%s)', 30 * $trend->slope, $spread) : '';
                @endphp
              {{ implode('; ', array_map(fn($l) => \App\View\ForecastWords::level($trend, $level->percent, $l, $today), $levels)) }}.
                <span class="hint">{{ count($samples) }}
                  samples{{ $slope }}</span>
              </p>
              <p class="hint">Counted: addresses given and the gateway, of usable ones, as they are given; sampled daily. Median of all slopes
                (Theil and Sen) with its spread.</p>
            </div>
          @endif
        </section>
      @endif
      @if ($mayPlan)
        @include('plan.lazy', ['panel' => 'change-form', 'title' => 'Edit this prefix', 'more' => '', 'forms' => ['change', 'remove']])
        <div id="follows-change"></div>
      @endif
      @if ($mayPlan)
        @include('plan.lazy', [
            'panel' => 'reshape',
            'title' => 'Reshape',
            'more' => 'split, merge, grow, shrink, move',
            'forms' => ['split', 'merge', 'resize'],
        ])
      @endif
      @include('plan.lazy', ['panel' => 'flow', 'title' => 'Settings that flow down', 'more' => '', 'forms' => ['setting']])
    </div>
  </div>
</x-layout>
