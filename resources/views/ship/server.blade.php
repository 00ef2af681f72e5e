@php
  use App\Links\DifferenceState;
  use App\Models\StepState;

  $what = $server->kind->holds() . (collect($differences)->contains('kind', 'pair') ? ' and pairs' : '');
  $gone = $work->where('state', DifferenceState::Gone);
  $same = collect($differences)->where('state', DifferenceState::Same)->count();
  $there = collect($differences)->where('state', DifferenceState::Waiting)->where('kind', 'zone');
  $planned = collect($differences)->where('state', DifferenceState::Waiting)->count() - $there->count();
@endphp
<x-layout :title="$server->name" verb="ship" work="ship" does="ship">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship') }}">Servers</a></li>
      <li aria-current="page">{{ $server->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $server->name }}</h1>
    <span class="mono">{{ $server->address }}</span>
    <span class="soft">{{ $server->does() }}, reached at <span
        class="mono">{{ $server->endpoint }}</span>{{ $server->site ? ', ' . $server->site->name : '' }}</span>
    @if ($server->held)
      <span class="stopped">@mark('stop') held: nothing is shipped to it</span>
    @endif
    <a class="btn small end" href="{{ at('watch') }}?object={{ $server->id }}">History</a>
  </header>
  <div id="server-page" class="stack">
  @if ($behind)
    <div class="notice" role="status" hx-get="{{ request()->fullUrlWithQuery(['now' => 1]) }}" hx-trigger="load" hx-select="#server-page"
      hx-target="#server-page" hx-swap="outerHTML">
      @mark('wait')
      <span class="grow">
        @if ($state?->problem_since)
          It did not answer when it was looked at last, {{ Carbon\CarbonImmutable::parse($state->problem_since)->diffForHumans() }}.
          It is asked again now.
        @else
          It is slow: what it runs is asked behind this page.
        @endif
      </span>
      <a class="btn small" href="{{ request()->fullUrlWithQuery(['now' => 1]) }}">Ask and wait</a>
      <a class="btn small" href="{{ at('ship') }}">Leave it</a>
    </div>
  @endif
  @if ($frozen)
    <div class="notice bad" role="status">@mark('stop')<span class="grow"><b>Frozen until {{ $frozen->ends_at->format('D j M H:i') }} UTC.</b>
        {{ $frozen->why }}</span> <a href="{{ at('ship.times') }}">Times</a></div>
  @endif
  @if ($problem)
    <div class="fault" role="alert">
      <h3>@mark('stop'){{ $server->name }} could not be read</h3>
      <p>{{ $problem }}</p>
      <p class="soft">
        What it runs now is not known.
        @if ($state?->compared_at)
          It was last read {{ Carbon\CarbonImmutable::parse($state->compared_at)->diffForHumans() }}.
        @endif
        Ship again when it answers.
      </p>
    </div>
  @endif
  @if ($state?->leases_problem)
    <div class="fault" role="alert">
      <h3>@mark('stop')Its leases could not be read</h3>
      <p>{{ $state->leases_problem }}</p>
    </div>
  @endif
  @if ($lost > 0)
    <div class="fault" role="status">
      <h3>@mark('warn'){{ number_format($lost) }} {{ $lost === 1 ? 'lease that it gave is' : 'leases that it gave are' }} not on it any more, and still
        {{ $lost === 1 ? 'runs' : 'run' }}</h3>
      <p>As after a lost disk: it gives these addresses to others while their clients use them.</p>
      @if ($may)
        <form method="post" action="{{ at('ship.server.leases', $server->id) }}" class="row">
          @csrf
          <button class="btn small">
            Give {{ $lost === 1 ? 'it' : number_format(min($lost, \App\Shipping\LeaseReturn::MOST)) }} back to {{ $server->name }}
          </button>
        </form>
      @endif
    </div>
  @endif
  <div id="shipping"
    @if ($runs) hx-get="{{ at('ship.server', $server->id) }}" hx-trigger="every 1s" hx-select="#shipping" hx-swap="outerHTML" @endif>
    @if ($runs)
      <section class="panel pad-all">
        <label for="bar">Shipping: {{ $runs->total === null ? 'comparing' : count($runs->steps) . ' of ' . $runs->total }}</label>
        <progress id="bar" @if ($runs->total) max="{{ $runs->total }}" value="{{ count($runs->steps) }}" @endif></progress>
        <form method="post" action="{{ at('ship.shipment.cancel', $runs->id) }}">@csrf
          <button class="btn small">Cancel after this step</button>
        </form>
        <ul class="lines">
          @foreach (array_slice($runs->steps, -8) as $step)
            <li>@mark(StepState::from($step['state'])->mark(), $step['state']) <b>{{ $step['what'] }}</b> {{ $step['message'] }}</li>
          @endforeach
        </ul>
      </section>
    @endif
  </div>
  <div class="split two">
    <div class="stack">
      @if ($asked && !$problem && !$behind)
        <section class="panel">
          <header>
            <h2>Intended against running</h2>
            <span class="soft">
              {{ $work->count() }} of {{ count($differences) - $planned - $there->count() }}
              {{ $what }} differ{{ $deep ? ', read as a whole' : '' }}{{ $only === [] ? '' : ', one chosen:' }}
              @if ($only !== [])
                <a href="{{ at('ship.server', $server->id) }}">show all</a>
              @endif
            </span>
            <span class="end row">
              @if ($server->kind === \App\Models\ServerKind::Dns)
                <a class="btn small" href="{{ at('name.test') }}">Test what was changed</a>
                <a class="btn small" href="?deep={{ $deep ? 0 : 1 }}">{{ $deep ? 'Compare by serial' : 'Read whole zones and compare' }}</a>
              @endif
            </span>
          </header>
          @if ($there->isNotEmpty())
            <ul class="lines pad">
              @foreach ($there as $d)
                <li>@mark('warn') <b>{{ $d->title }}</b> {{ $d->message }}</li>
              @endforeach
            </ul>
          @endif
          @if ($work->isEmpty() && ($same > 0 || $there->isEmpty()))
            <div class="empty">
              <h3>@mark('ok'){{ $there->isEmpty() ? "Everything on $server->name" : "What $server->name has" }} is as intended</h3>
              <p class="soft">
                {{ $same }} {{ $same === 1 ? Str::singular($what) : $what }} compared just now,
                {{ $deep || $server->kind !== \App\Models\ServerKind::Dns ? 'line by line' : 'by serial and journal' }}.
                @if ($planned > 0)
                  {{ $planned }} more {{ $planned === 1 ? 'is' : 'are' }} planned, so not on servers yet.
                @endif
              </p>
            </div>
          @endif
          @foreach ($work as $d)
            <details class="pad" open>
              <summary class="bar-line">
                @mark($d->state->mark())<b>{{ $d->title }}</b>
                <span class="soft">{{ number_format($d->addedCount) }} to add, {{ number_format($d->removedCount) }} to
                  remove{{ $d->message ? ': ' . $d->message : '' }}</span>
                @if ($d->drifted)
                  <span class="warn">drifted</span>
                @endif
                @if ($d->running || $d->intended)
                  <span class="end mono soft">{{ $d->running ?? 'none' }} → {{ $d->intended }}</span>
                @endif
              </summary>
              @if ($d->drifted && $may && $d->kind === 'zone' && $d->state !== DifferenceState::Gone)
                <p class="pad"><a class="btn small" href="{{ at('name.zone.drift', $d->id) }}">Take into the plan, line by line</a></p>
              @elseif ($may && in_array($d->kind, ['vlan', 'resolving'], true) && $d->state !== DifferenceState::New)
                <p class="pad"><a class="btn small" href="{{ at('ship.server.drift', $server->id) }}">Take into the plan, one by one</a></p>
              @elseif ($d->drifted && $may && $d->kind === 'scope' && $d->state === DifferenceState::Differs)
                <p class="pad"><a class="btn small" href="{{ at('lease.scope.drift', $d->id, $server->id) }}">Take into the plan, one by one</a></p>
              @endif
              <ul class="diffs">
                @foreach (array_slice($d->removed, 0, 60) as $line)
                  <li><span class="op stopped">− remove</span>
                    <span class="cutline">{{ $line }}</span>
                  </li>
                @endforeach
                @foreach (array_slice($d->added, 0, 60) as $line)
                  <li><span class="op">+ add</span>
                    <span>{{ $line }}</span>
                  </li>
                @endforeach
              </ul>
              @if ($d->addedCount > 60 || $d->removedCount > 60)
                <p class="hint">The first 60 of each are shown.</p>
              @endif
            </details>
          @endforeach
        </section>
      @endif
      @if ($trial !== null)
        <section class="panel" id="trial">
          <header>
            <h2>The connection, tried just now</h2>
            <span class="soft">nothing was changed by it</span>
          </header>
          <ul class="lines pad">
            @foreach ($trial as $step)
              <li>@mark($step['good'] ? 'ok' : 'stop', $step['good'] ? 'good' : 'not good') <b>{{ $step['what'] }}</b> {{ $step['words'] }}</li>
            @endforeach
          </ul>
        </section>
      @endif
      @if (!$asked && !$behind)
        <section class="panel">
          <div class="empty">
            <h3>Nothing is shipped to it</h3>
            <p class="soft">
              @if ($server->kind === \App\Models\ServerKind::Resolver)
                A resolver answers by asking others. Ask it something in Lookup.
              @else
                No control endpoint is written down for it.
              @endif
            </p>
          </div>
        </section>
      @endif
      @foreach ($last as $s)
        @continue($s->runs())
        <details class="panel" @if ($loop->first && $s->state !== \App\Models\ShipmentState::Done) open @endif>
          <summary class="bar-line">
            @mark($s->state === \App\Models\ShipmentState::Done ? 'ok' : 'warn')<b>Shipment {{ $s->started_at->diffForHumans() }}</b>
            <span class="soft" title="{{ $s->started_at }}">{{ $s->state->value }}, {{ $s->done() }} of
              {{ max(count($s->steps), (int) $s->total) }} {{ $s->proof() }}</span>
          </summary>
          @if ($s->message)
            <p class="pad">{{ $s->message }}</p>
          @endif
          @if ($s->state === \App\Models\ShipmentState::Partial)
            <p class="pad">What failed stays waiting above; ship again to go on from there.</p>
          @endif
          <ul class="lines pad">
            @forelse ($s->steps as $step)
              <li>@mark(StepState::from($step['state'])->mark(), $step['state']) <b>{{ $step['what'] }}</b> {{ $step['message'] }}</li>
            @empty
              <li class="open">nothing was sent</li>
            @endforelse
          </ul>
        </details>
      @endforeach
    </div>
    <div class="side">
      @if ($may && $asked && !$problem && !$behind && !$runs)
        <section class="follows" aria-label="What follows">
          <h2>What follows</h2>
          <p class="cause">Ship to <b>{{ $server->name }}</b></p>
          <div class="scroll" tabindex="0" role="region" aria-label="What would be shipped">
            <h3>Sent</h3>
            <ol class="wake">
              @forelse ($work->take(30) as $d)
                @php
                  $lost = $d->drifted && $d->removedCount > 0 ? ', ' . number_format($d->removedCount) . ' that the plan does not know are taken away' : '';
                @endphp
                <li>@mark($d->state->mark())<span>{{ $d->title }}{{ $lost }}</span></li>
              @empty
                @if ($there->isEmpty())
                  <li>@mark('ok')<span>nothing: all is as intended</span></li>
                @else
                  <li>@mark('warn')<span>nothing: {{ $there->count() === 1 ? 'a zone waits' : $there->count() . ' zones wait' }} for who keeps the
                      server</span></li>
                @endif
              @endforelse
              @if ($work->count() > 30)
                <li><span></span>
                  <span>and {{ $work->count() - 30 }} more</span>
                </li>
              @endif
              @if ($work->isNotEmpty())
                <li>
                  @mark('wait')
                  <span>
                    @switch ($server->kind)
                      @case (\App\Models\ServerKind::Dhcp)
                        then each scope is read back, its options are asked for, and what it leases is offered, taken and given back
                        @break
                      @case (\App\Models\ServerKind::Network)
                        then each VLAN is read back
                        @break
                      @default
                        serials rise once; then SOA and changed record sets are asked
                    @endswitch
                  </span>
                </li>
              @endif
            </ol>
          </div>
          <form id="ship" method="post" action="{{ at('ship.server', $server->id) }}">
            @csrf
            <input type="hidden" name="deep" value="{{ $deep ? 1 : 0 }}">
            <input type="hidden" name="shown" value="{{ $shown }}">
            @foreach ($only as $o)
              <input type="hidden" name="only[]" value="{{ $o }}">
            @endforeach
            @if ($gone->isNotEmpty())
              <p class="field"><label class="tick"><input type="checkbox" name="removals" value="1">also take away {{ $gone->count() }}
                  {{ $what }} that the plan does not place here</label></p>
            @endif
            @if ($shut)
              <div class="field"><span><label for="ship-reason">No window of it is open{{ $next ? ', the next one ' . $next : '' }}: why now?</label></span>
                <input id="ship-reason" name="reason" maxlength="250" required autocomplete="off">
              </div>
            @endif
            <div class="decide">
              <button class="btn main" data-key="main" @disabled($work->isEmpty() || $server->held || $frozen)>Ship and verify <kbd>Ctrl Enter</kbd></button>
            </div>
          </form>
        </section>
      @endif
      <section class="panel">
        <header>
          <h2>Server</h2>
        </header>
        <dl class="facts pad">
          @if ($server->speaks === App\Models\Speaks::Standard)
            <dt>Reached by</dt>
            <dd>{{ $server->speaks->words() }}</dd>
            <dt>Signed by</dt>
            <dd class="mono">{{ $server->key?->title() }}</dd>
          @elseif ($server->speaks === App\Models\Speaks::Here)
            <dt>Reached by</dt>
            <dd>{{ $server->speaks->words() }}</dd>
            <dt>Catalogs</dt>
            <dd>
              @forelse ($catalogs as $one)
                <div><span class="mono">{{ $one['name'] }}</span>
                  <span class="hint">{{ $one['zones'] }} {{ Str::plural('zone', $one['zones']) }}, serial {{ $one['serial'] }}</span></div>
              @empty
                {{ $server->catalog === null ? 'none: each server that copies is told each zone by its keeper' : 'no zone was shipped here yet' }}
              @endforelse
            </dd>
          @elseif ($server->kind === App\Models\ServerKind::Dhcp && $server->control === null)
            <dt>Its leases</dt>
            <dd>are read from {{ $server->endpoint }} by the standards, RFC 6926 and RFC 5460; the plan is not brought to it</dd>
          @else
            <dt>Mode</dt>
            <dd>{{ $status['mode'] ?? 'unknown' }}</dd>
          @endif
          @isset($status['since'])
            <dt>Up since</dt>
            <dd>{{ Carbon\CarbonImmutable::createFromTimestamp($status['since'])->format('j M H:i') }}</dd>
          @endisset
          @foreach (['zones', 'scopes', 'leases'] as $k)
            @isset($status[$k])
              <dt>{{ ucfirst($k) }}</dt>
              <dd>{{ number_format($status[$k]) }}</dd>
            @endisset
          @endforeach
          @if ($state?->compared_at)
            <dt>Looked at</dt>
            <dd title="{{ $state->compared_at }}">{{ Carbon\CarbonImmutable::parse($state->compared_at)->diffForHumans() }}:
              {{ $state->differing === 0 ? 'as it was brought there' : $state->differing . ' drifted' }}</dd>
          @endif
          @if ($state?->leases_read_at)
            <dt>Leases read</dt>
            <dd title="{{ $state->leases_read_at }}">{{ Carbon\CarbonImmutable::parse($state->leases_read_at)->diffForHumans() }},
              {{ number_format($state->leases) }}</dd>
          @endif
        </dl>
        @if ($state?->leases_log)
          @php
            $log = (array) json_decode($state->leases_log, true);
          @endphp
          <p class="pad hint">The last reading: {{ $log['added'] ?? 0 }} added, {{ $log['changed'] ?? 0 }} changed, {{ $log['same'] ?? 0 }} the
            same, {{ $log['gone'] ?? 0 }} gone, {{ count($log['refused'] ?? []) }} refused.</p>
          @if (($log['refused'] ?? []) !== [])
            <ul class="lines pad">
              @foreach (array_slice($log['refused'], 0, 10) as $line)
                <li>@mark('warn') {{ $line }}</li>
              @endforeach
            </ul>
          @endif
        @endif
        @if ($server->speaks === App\Models\Speaks::Standard)
          <p class="pad">
            <a class="btn small" href="?try=1#trial">Try the connection</a>
            <span class="hint">name and port, key, and of each zone whether it transfers and takes updates</span>
          </p>
        @elseif ($server->control !== null && ($may || auth()->user()->does(App\Models\Role::Steward)))
          <form class="pad row" method="post" action="{{ at('ship.server.mode', $server->id) }}">
            @csrf
            <label class="sr" for="mode">Tell the stand-in to be</label>
            <select id="mode" name="mode">
              @foreach (['normal', 'slow', 'silent', 'refusing', 'wrong'] as $m)
                <option @selected(($status['mode'] ?? '') === $m)>{{ $m }}</option>
              @endforeach
            </select>
            <button class="btn small">Tell the stand-in</button>
          </form>
        @endif
        @if ($may || auth()->user()->does(App\Models\Role::Steward))
          <form class="pad" method="post" action="{{ at('act', 'change-server') }}">
            @csrf
            <input type="hidden" name="then" value="commit">
            <input type="hidden" name="server" value="{{ $server->id }}">
            <input type="hidden" name="held" value="{{ $server->held ? '0' : '1' }}">
            <button class="btn small">{{ $server->held ? 'Stop holding' : 'Hold' }}</button>
          </form>
        @endif
        @if (auth()->user()->does(App\Models\Role::Steward) && $server->speaks !== App\Models\Speaks::Here)
          <form class="pad row" method="post" action="{{ at('act', 'change-server') }}">
            @csrf
            <input type="hidden" name="then" value="commit">
            <input type="hidden" name="server" value="{{ $server->id }}">
            <label for="figures">Figures are read at</label>
            <input id="figures" name="metrics" class="mono grow" value="{{ $server->metrics }}" placeholder="control, or https://host/metrics">
            <button class="btn small">Keep</button>
          </form>
        @endif
        @if (auth()->user()->does(App\Models\Role::Steward))
          <details class="more">
            <summary class="pad">Name, site, owner, how it is reached</summary>
            <div class="pad">
              <x-act id="written" action="change-server" :seen="['server:' . $server->id => $server->version]">
                <input type="hidden" name="server" value="{{ $server->id }}">
                <x-field form="written" name="name" label="Name" :value="$server->name" />
                <x-field form="written" name="site" label="Site" pick="site" none="-" blank="none" :value="$server->site_id ?? ''"
                  :shown="$server->site->name ?? ''" />
                <x-field form="written" name="tenant" label="Owner" pick="tenant" none="-" blank="that of its site"
                  :value="$server->tenant_id ?? ''" />
                @if ($server->kind === App\Models\ServerKind::Dns)
                  <x-field form="written" name="speaks" label="Reached by" :options="App\Models\Speaks::choices()" :value="$server->speaks->value" />
                  <x-field form="written" name="key" label="Key that signs it" :options="['-' => 'none'] + $keys" :value="$server->key_id ?? '-'" />
                  @if ($server->speaks === App\Models\Speaks::Here)
                    <x-field form="written" name="catalog" label="Catalog" mono :value="rtrim((string) $server->catalog, '.')"
                      placeholder="catalog.kittiwake.example" hint="RFC 9432; one for each view, below this name" />
                  @endif
                @endif
              </x-act>
              <x-cut
                id="cutserver"
                action="remove-object"
                :input="['noun' => 'server', 'object' => $server->id]"
                target="#follows-written"
                label="Remove the server"
                class="row end"
              />
              <div id="follows-written"></div>
            </div>
          </details>
        @endif
        @if ($server->speaks !== App\Models\Speaks::Here)
          <p class="pad"><a href="{{ at('watch.server', $server->id) }}">What it measures</a></p>
        @endif
      </section>
    </div>
  </div>
  </div>
</x-layout>
