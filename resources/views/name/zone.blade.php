@php
  $me = auth()->user();
  $may = $some;
  // In another order than that of names each row says its name.
  $sets = $list['list'] === null || $list['list']->order->by === 'name';
  $byName = $sets ? $list['rows']->groupBy('owner') : $list['rows']->map(fn($r) => collect([$r]));
  $rel = fn($text) => str_ends_with((string) $text, '.' . $zone->name) ? substr($text, 0, -strlen('.' . $zone->name)) : $text;
  $all = $filter !== '' && !$list['more'] && $list['count'] > count($list['rows']) && $list['count'] <= \App\Queries\ZonePage::AT_ONCE;
  $data = fn($r) => in_array($r->type, [2, 5, 12, 15, 33])
      ? preg_replace('/(^|\s)(\S+)\.' . preg_quote($zone->name, '/') . '$/', '$1$2', $r->data)
      : $r->data;
  $layouts = collect(\HarborPost\Core\Dns\Rdata\RdataTypes::WRITTEN)
      ->mapWithKeys(fn($t) => [$t => \HarborPost\Core\Dns\Rdata\TypedFields::of(\HarborPost\Core\Dns\RecordType::parse($t))])
      ->all();
  $sorted = $byName->map(fn($set) => $set->count() === 1 ? $set : $set->sortBy([['type', 'asc'], ['data', 'asc']])->values());
  $mine = $may ? $sorted->flatten(1)->filter($can)->pluck('id') : [];
  $kept = ['filter' => $filter, 'after' => request('after'), 'sort' => request('sort'), 'page' => request('page')];
  $own = array_flip([...$mine]);
  $in = \App\View\InRow::of($mine, $edit, at('name.zone', $zone->id), $kept);
  $editing = $in->id === null ? null : $list['rows']->firstWhere('id', $in->id);
  $spoken = fn($s) => \HarborPost\Core\Dns\Ttl::of($s)->spoken();
  $behind = $zone->placements->filter(fn($p) => $p->shipped_serial !== $zone->serial);
@endphp
<x-layout :title="$zone->title()" verb="name" work="record" does="the record form" edit="zoneform">
  <nav aria-label="Above this zone">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">{{ $zone->title() }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1 class="mono">{{ $zone->title() }}</h1>
    <span class="oneof" aria-label="View"><a aria-current="true" href="{{ at('name.zone', $zone->id) }}">{{ $zone->view->name }}</a>
      @foreach ($others as $o)
        <a href="{{ at('name.zone', $o->id) }}">{{ $o->view->name }}</a>
      @endforeach
    </span>
    @if ($zone->silenced)
      <span class="stopped">@mark('stop') silenced: no server answers for it</span>
    @endif
    @php
      $on = ($behind->isEmpty() ? $zone->placements : $behind)->map(fn($p) => $p->server->name)->implode(', ');
    @endphp
    <span class="end soft">
      Serial <span class="mono">{{ $zone->serial ?: 'none yet' }}</span>{{ $waits > 0 ? ',' : ($behind->isEmpty() ? ", in effect on $on" : ", behind on $on") }}
      @if ($waits > 0)
        <b>{{ $waits }} changes wait</b> and raise it once when shipped
      @endif
      @unless ($me->isBound())
        <a class="btn small" href="{{ at('watch') }}?object={{ $zone->id }}">History</a>
        <a class="btn small" href="{{ at('name.zone.service', $zone->id) }}">Service</a>
        <a class="btn small" href="{{ at('name.zone.signing', $zone->id) }}">Signing</a>
        <a class="btn small" href="{{ at('ship') }}">Ship</a>
      @endunless
    </span>
  </header>
@if ($drifted !== [] && !$me->isBound())
  <div class="notice bad">
    @mark('warn')
    <span class="grow"><b>The zone was changed on {{ implode(', ', $drifted) }}, and not from here.</b> Which records is known when the server is
      read as a whole.</span>
    <a class="btn small" href="{{ at('name.zone.drift', $zone->id) }}">Look what changed</a>
  </div>
@endif
<div class="split two">
  <section class="panel">
    <div class="bar-line">
      <form class="find" action="{{ at('name.zone', $zone->id) }}"><label class="sr" for="filter">Find in this zone</label><svg
          viewBox="0 0 16 16" fill="none" stroke="currentColor" stroke-width="1.5" aria-hidden="true">
          <circle cx="7" cy="7" r="4.500" />
          <path d="m10.500 10.500 4 4" />
        </svg><input type="search" id="filter" name="filter" value="{{ $filter }}"
          placeholder="start of a name, type:mx, ttl>3600, data:10.38, renewed:due, check:any"><kbd aria-hidden="true">f</kbd></form>
      <span class="soft">{{ number_format($list['count']) }}{{ $list['more'] ? '+' : '' }}
        {{ $list['count'] === 1 ? 'record' : 'records' }}</span>
      <span class="key open">italic TTL: inherited, {{ $spoken($zone->default_ttl) }}</span>
      <span class="end row">
        @if ($may)
          <span data-needs-pick hidden class="row">
            @if ($all)
              <label class="tick"><input type="checkbox" form="cut" name="matching" value="{{ $filter }}">all
                {{ number_format($list['count']) }} that match</label>
            @endif
            <b><span data-picked>0</span> picked</b>
            <form id="cut" class="row" method="post" action="{{ at('act', 'remove-records') }}" hx-post="{{ at('act', 'remove-records') }}"
              hx-target="#follows-record" hx-swap="innerHTML">@csrf
              <input type="hidden" name="_form" value="cut">
              <input type="hidden" name="zone" value="{{ $zone->id }}"><label class="tick"><input type="checkbox" name="dependants"
                  value="1">with what points at them</label>
              <button class="btn stop small" name="then" value="preview">Remove</button>
            </form>
            <button type="button" class="btn small" data-open="bulk-panel">Edit all</button>
          </span>
        @endif
        @if ($reads)
          <a class="btn small" href="{{ at('name.zone.checks', $zone->id) }}">Check</a>
          <a class="btn small" href="{{ at('name.zone.export', $zone->id) }}">Export</a>
        @endif
        @if ($me->operatesAll())
          <a class="btn small" href="{{ at('import') }}?kind=zone&amp;target={{ $zone->id }}">Import</a>
        @endif
      </span>
    </div>
    <x-table label="Records" class="work" data-worktable data-paged>
      <thead>
        <tr>
          @if ($may)
            <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
          @endif
          @foreach (['name' => 'Name', 'type' => 'Type', 'ttl' => 'TTL', 'data' => 'Data'] as $by => $words)
            @if ($list['list'])
              <x-head :list="$list['list']" :$by :num="$by === 'ttl'">{{ $words }}</x-head>
            @else
              <th @class(['num' => $by === 'ttl']) title="Of so many records names alone give the order; a filter finds fewer">{{ $words }}</th>
            @endif
          @endforeach
          <th>State</th>
        </tr>
      </thead>
      @if ($filter === '' && !request('after') && ($list['list']?->page ?? 1) === 1)
        <tbody>
          <tr>
            @if ($may)
              <td></td>
            @endif
            <td class="name mono">@</td>
            <td>SOA</td>
            <td class="num open">{{ $spoken($zone->default_ttl) }}</td>
            <td class="mono wrap">{{ $rel($zone->primary_server) }} {{ $rel($zone->mailbox) }} {{ $zone->serial }} {{ $zone->refresh }}
              {{ $zone->retry }} {{ $zone->expire }} {{ $zone->negative_ttl }}</td>
            <td></td>
          </tr>
        </tbody>
      @endif
      @foreach ($sorted as $set)
        @php
          $owner = $set[0]->owner;
        @endphp
        <tbody>
          @foreach ($set as $r)
            @if ($in->is($r->id))
              @php
                $rdata = $r->toRecord($zone->default_ttl)->data;
                $values = \HarborPost\Core\Dns\Rdata\TypedFields::values($rdata, $origin);
                $layout = \HarborPost\Core\Dns\Rdata\TypedFields::of($rdata->type());
              @endphp
              <tr class="editing" aria-selected="true" data-row="{{ $r->id }}">
                <td></td>
                <td class="name mono">
                  @if ($r->address_id)
                    {{ $owner === $zone->name ? '@' : $rel($owner) }}
                  @else
                    <label class="sr" for="e-name">Name</label><input id="e-name" form="record" name="name" class="mono"
                      value="{{ $owner === $zone->name ? '@' : $rel($owner) }}" data-was="{{ $owner === $zone->name ? '@' : $rel($owner) }}">
                  @endif
                </td>
                <td>{{ $r->typeName() }}</td>
                <td class="num"><label class="sr" for="e-ttl">TTL</label><input id="e-ttl" form="record" name="ttl"
                    class="num" value="{{ $r->ttl }}" data-was="{{ $r->ttl }}" placeholder="{{ $zone->default_ttl }}"></td>
                <td><span class="inrow">
                    @foreach ([...$values, ...$layout[count($layout) - 1]->repeats ? [''] : []] as $n => $v)
                      @php
                        $f = $layout[min($n, count($layout) - 1)];
                      @endphp
                      <label
                        @class(['brief' => $f->kind === 'number' || $f->kind === 'word'])>
                        <span>{{ $f->label }}{{ $n >= count($layout) ? ', string ' . ($n + 1) : '' }}</span>
                        <input
                          form="record" name="fields[{{ $n }}]" class="mono @if ($f->kind === 'number') num @endif"
                          value="{{ $v }}" data-was="{{ $v }}" placeholder="{{ $n < count($values) ? $f->example : 'none' }}" spellcheck="false"
                          autocomplete="off" @if ($f->kind === 'number') inputmode="numeric" @endif
                          @if ($n === 0) autofocus @endif></label>
                    @endforeach
                  </span>
                </td>
                <td><a href="{{ $in->out() }}" data-leave>Leave</a></td>
              </tr>
            @else
              <tr @class(['drafted' => isset($touched["record:$r->id"])]) data-row="{{ $r->id }}" title="{{ $touched["record:$r->id"] ?? '' }}">
                @if ($may)
                  <td class="pickcell">
                    @if (isset($own[$r->id]))
                      <input type="checkbox" class="pick" form="cut" name="records[]" value="{{ $r->id }}"
                        aria-label="Pick {{ $r->typeName() }} {{ $rel($owner) }}">
                    @endif
                  </td>
                @endif
                <td class="name mono">{{ $loop->first ? ($owner === $zone->name ? '@' : $rel($owner)) : '' }}</td>
                <td>{{ $r->typeName() }}</td>
                <td @class(['num', 'open' => $r->ttl === null])>{{ $spoken($r->ttl ?? $zone->default_ttl) }}</td>
                <td class="mono wrap">
                  @if (isset($own[$r->id]))
                    <a href="{{ $in->into($r->id) }}" data-inrow
                      aria-label="Edit {{ $r->typeName() }} {{ $rel($owner) }}">{{ $data($r) }}</a>
                    @else{{ $data($r) }}
                    @endif @if ($r->address_id)
                      <span class="hint" title="belongs to a placed host">host</span>
                      @endif @if ($r->share_id)
                        <span class="hint" title="shared between views">shared</span>
                        @endif @if ($r->renewed_at)
                          <a class="hint" href="{{ at('name.zone.timeline', $zone->id) }}?name={{ urlencode($r->owner) }}">renewed
                            {{ $r->renewed_at->diffForHumans(short: true) }}</a>
                        @endif
                </td>
                <td>{{ \App\View\Draw::chain(\App\Shipping\Chain::ofSet($zone, isset($waiting[$r->owner . ' ' . $r->type]), $drifted)) }}
                  @if ($was = $old["$r->owner $r->type"] ?? null)
                    @php
                      $says = ($was['none'] ? '“no such name” until ' : 'old answers until ') . \App\View\Words::moment($was['until']);
                    @endphp
                    {{ \App\View\Draw::clock($was['left'], $says) }}
                  @endif
                </td>
              </tr>
            @endif
          @endforeach
        </tbody>
      @endforeach
      @if ($may && $editing === null)
        <tfoot>
          <tr class="addrow">
            <td></td>
            <td><x-field bare form="rowadd" name="name" label="Name of a new record" mono placeholder="@" /></td>
            <td><x-field bare form="rowadd" name="type" label="Type of a new record" :options="array_combine(array_keys($layouts), array_keys($layouts))"
                :value="$zone->isReverse() ? 'PTR' : 'A'" /></td>
            <td><x-field bare form="rowadd" name="ttl" label="TTL of a new record" :placeholder="$spoken($zone->default_ttl)" class="num" /></td>
            <td><x-field bare form="rowadd" name="data" label="Data of a new record" mono placeholder="192.0.2.1" /></td>
            <td><button class="btn small" form="rowadd" name="then" value="preview">Add</button></td>
          </tr>
        </tfoot>
      @endif
    </x-table>
    @if ($list['rows']->isEmpty())
      <div class="empty">
        <h3>
          {{ $filter === '' ? 'Only the SOA is here' : ($list['misread'] === [] ? 'Nothing matches "' . $filter . '"' : 'The filter is not understood') }}
        </h3>
        @foreach ($list['misread'] as $m)
          <p>{{ $m }}</p>
          @endforeach @if ($filter !== '')
            <p><a href="{{ at('name.zone', $zone->id) }}">Show the whole zone</a></p>
          @endif
      </div>
    @endif
    @if ($list['list'] && $list['list']->pages > 1)
      <x-pages :list="$list['list']" what="records" />
    @endif
    @if ($list['next'] || request('after') && $list['list'] === null)
      <p class="bar-line">
        @if (request('after'))
          <a href="{{ request()->fullUrlWithQuery(['after' => null]) }}">First names</a>
          @endif @if ($list['next'])
            <a href="{{ request()->fullUrlWithQuery(['after' => $list['next']]) }}">Further names</a>
          @endif
      </p>
    @endif
  </section>
  <div class="side">
    @if ($may)
      @if ($editing === null)
        <x-row-adds :$in action="add-record">
          <input type="hidden" name="zone" value="{{ $zone->id }}">
        </x-row-adds>
      @endif
      <section class="panel">
        <header>
          <h2>{{ $editing ? 'Change ' . $editing->typeName() . ' ' . ($editing->owner === $zone->name ? '@' : $rel($editing->owner)) : 'Add a record' }}
          </h2>
        </header>
        <div class="pad">
          @if ($editing)
            <x-act
              id="record"
              action="change-record"
              :seen="['record:' . $editing->id => $editing->version]"
              :stay="$in->out()"
              data-inrow
              :data-next="$in->next()"
            ><input type="hidden" name="record" value="{{ $editing->id }}">
              <p class="hint">Edit its name, TTL and data in the row; <kbd>Ctrl+Enter</kbd> writes it and goes on to the next, <kbd>Esc</kbd>
                leaves it. The TTL holds for the whole record set (RFC 2181 §5.2).@if ($editing->address_id)
                  The record belongs to a placed host: its address and PTR move with it.
                @endif
              </p>
            </x-act>
          @else
            <x-act id="record" action="add-record"><input type="hidden" name="zone" value="{{ $zone->id }}">
              <div class="pair">
                <x-field form="record" name="name" label="Name" mono placeholder="@" :data-origin="$zone->title()" />
                <x-field
                  form="record"
                  name="type"
                  label="Type"
                  :options="array_combine(array_keys($layouts), array_keys($layouts))"
                  :value="$zone->isReverse() ? 'PTR' : 'A'"
                />
              </div>
              @php
                $examples = 'A 192.0.2.1 · MX 10 mail · SRV 10 60 5060 host · TXT \'text\' in double quotes · CAA 0 issue, the authority in double quotes';
              @endphp
              <x-field
                form="record"
                name="data"
                label="Data"
                mono
                data-layouts="{{ json_encode($layouts) }}"
                data-values="{{ json_encode(array_values((array) old('fields', []))) }}"
                :hint="$examples . '; names without a final dot are in ' . $zone->title()"
              />
              @unless ($zone->isReverse())
                <p class="field" data-of-types="A AAAA"><label class="tick"><input type="checkbox" name="ptr" value="1"
                      @checked(old('ptr'))>with its PTR, for A and AAAA</label></p>
              @endunless
              <x-field form="record" name="ttl" label="TTL" placeholder="inherited, {{ $spoken($zone->default_ttl) }}"
                hint="seconds, or 1h30m" />
            </x-act>
          @endif
        </div>
      </section>
      <x-follows-slot form="record" :row="$editing !== null" />
      <details class="panel" id="bulk-panel" @if (old('_form') === 'bulkrec') open @endif>
        <summary class="bar-line"><b>Edit all picked</b> <span class="soft"><span data-picked>0</span></span></summary>
        <div class="pad">
          <x-act id="bulkrec" action="change-records" data-takes-picks="records[]"><input type="hidden" name="zone"
              value="{{ $zone->id }}">
            @if ($all)
              <p class="field"><label class="tick"><input type="checkbox" name="matching" value="{{ $filter }}">all
                  {{ number_format($list['count']) }} that match, not only those picked</label></p>
            @endif
            <x-field form="bulkrec" name="ttl" label="TTL" placeholder="as it is; inherit takes the zone's" />
            <div class="pair">
              <x-field form="bulkrec" name="find" label="Find" mono />
              <x-field form="bulkrec" name="replace" label="Replace by" mono />
            </div>
            <x-field form="bulkrec" name="in" label="In" :options="['data' => 'the data', 'name' => 'the name']" />
          </x-act>
        </div>
      </details>
      <div id="follows-bulkrec"></div>
      <details class="panel" @if (old('_form') === 'paste') open @endif>
        <summary class="bar-line"><b>Paste records</b> <span class="soft">lines of a zone file</span></summary>
        <div class="pad">
          <x-act id="paste" action="paste-records"><input type="hidden" name="zone" value="{{ $zone->id }}">
            <x-field form="paste" name="text" label="Records" rows="6" mono
              placeholder="till-9  A  10.36.8.9&#10;www 300 CNAME till-9"
              hint="a name without a final dot is in this zone; without a TTL the zone's is inherited" />
          </x-act>
        </div>
      </details>
      <div id="follows-paste"></div>
      <details class="panel" hx-get="{{ at('name.zone.lately', $zone->id) }}" hx-trigger="toggle once" hx-target="find .lately"
        hx-swap="innerHTML">
        <summary class="bar-line"><b>Changed lately</b> <span class="soft">undo</span></summary>
        <div class="lately">
          <p class="pad open"><a href="{{ at('name.zone.lately', $zone->id) }}">what changed here</a></p>
        </div>
      </details>
      @if ($people !== [] || $grants->isNotEmpty())
        <details class="panel" @if (old('_form') === 'grant') open @endif>
          <summary class="bar-line"><b>Who else may edit</b> <span class="soft">{{ $grants->count() }}</span></summary>
          <div class="pad">
            @if ($grants->isNotEmpty())
              <ul class="lines">
                @foreach ($grants as $g)
                  <li>{{ $g->line() }} @if ($people !== [])
                      <form method="post" action="{{ at('act', 'revoke-name') }}">@csrf
                        <input type="hidden" name="grant" value="{{ $g->id }}">
                        <button class="btn small" name="then" value="preview" aria-label="Take back: {{ $g->line() }}">Take back</button>
                      </form>
                    @endif
                  </li>
                @endforeach
              </ul>
            @endif
            @if ($people !== [])
              <x-act id="grant" action="grant-name"><input type="hidden" name="zone" value="{{ $zone->id }}">
                <x-field form="grant" name="person" label="Person" :options="$people" />
                <div class="pair">
                  <x-field form="grant" name="name" label="One name" mono placeholder="the whole zone" />
                  <x-field
                    form="grant"
                    name="type"
                    label="Records"
                    :options="array_combine(array_keys($layouts), array_keys($layouts))"
                    blank="of every type"
                  />
                </div>
                <x-check form="grant" name="below" label="and what is below it" />
              </x-act>
            @endif
          </div>
        </details>
        <div id="follows-grant"></div>
      @endif
      @if ($me->operatesAll())
        <details class="panel">
          <summary class="bar-line"><b>Zone settings</b></summary>
          <div class="pad">
            <x-act id="zoneform" action="change-zone" :seen="['zone:' . $zone->id => $zone->version]"><input type="hidden" name="zone" value="{{ $zone->id }}">
              <div class="pair">
                <x-field form="zoneform" name="refresh" label="Refresh, s" :value="$zone->refresh" />
                <x-field form="zoneform" name="retry" label="Retry, s" :value="$zone->retry" />
              </div>
              <div class="pair">
                <x-field form="zoneform" name="expire" label="Expire, s" :value="$zone->expire" />
                <x-field form="zoneform" name="negativeTtl" label="Negative TTL, s" :value="$zone->negative_ttl" />
              </div>
              <x-field form="zoneform" name="defaultTtl" label="Default TTL, s" :value="$zone->default_ttl" />
              <x-field form="zoneform" name="silenced" label="Answers" :options="['0' => 'answered', '1' => 'silenced']" :value="$zone->silenced ? '1' : '0'" />
            </x-act>
          </div>
        </details>
        <div id="follows-zoneform"></div>
      @endif
    @endif
  </div>
</div>
</x-layout>
