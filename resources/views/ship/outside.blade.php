<x-layout :title="$outside->name" verb="ship">
  @php
    $running = $runs->first(fn($r) => $r->state->runs());
    $marks = [
        'same' => 'ok',
        'differs' => 'warn',
        'missing here' => 'warn',
        'missing there' => 'warn',
        'rule here' => 'stop',
        'rule there' => 'stop',
        'unclear' => 'stop',
    ];
    $link = fn($more) => at('ship.outside.one', $outside->id) . '?' . http_build_query($more);
  @endphp
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('ship') }}">Servers</a></li>
      <li><a href="{{ at('ship.outside') }}">Systems outside</a></li>
      <li aria-current="page">{{ $outside->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $outside->name }}</h1>
    <span class="soft">{{ $outside->leads->words($outside->name) }}{{ $outside->keeps ? ', by itself' : '' }}; about
      {{ $outside->under ? $outside->under->prefix() : 'all' }} in {{ $outside->space->name }}</span>
    <span class="end row"><a class="btn small" href="{{ $link(['test' => 1]) }}">Test the connection</a></span>
  </header>
  @if ($problem)
    <div class="notice bad"><span class="grow">{{ $problem }}</span></div>
  @endif
  @if ($tested !== null)
    <section class="panel">
      <header>
        <h2>The connection, step by step</h2>
      </header>
      <ul class="lines pad">
        @foreach ($tested as $t)
          <li>@mark($t['ok'] ? 'ok' : 'stop') <b>{{ $t['what'] }}</b>: {{ $t['says'] }}</li>
        @endforeach
      </ul>
    </section>
  @endif
  <div class="split two">
    <div class="stack">
      <section class="panel">
        <header>
          <h2>Against the plan</h2>
          <span class="soft">{{ number_format($total) }} prefixes of both sides, each in one line; read just now</span>
        </header>
        <div class="bar-line">
          <span class="oneof">
            <a href="{{ $link([]) }}" @if ($state === null) aria-current="true" @endif>All but the same
              {{ number_format($total - ($counts['same'] ?? 0)) }}</a>
            @foreach (\HarborPost\Core\Planning\Sides\State::cases() as $s)
              @if (($counts[$s->value] ?? 0) > 0)
                <a href="{{ $link(['state' => $s->value]) }}" title="{{ $s->explained() }}"
                  @if ($state === $s) aria-current="true" @endif>{{ ucfirst($s->value) }} {{ number_format($counts[$s->value]) }}</a>
              @endif
            @endforeach
          </span>
        </div>
        @if ($lines === [])
          <x-empty :title="$problem ? 'It could not be read' : 'Nothing differs'">
            @if ($problem)
              The steps above say where it ends.
            @else
              Each of {{ number_format($total) }} prefixes stands alike on both sides, as read just now.
            @endif
          </x-empty>
        @else
          <x-table label="Against the plan" data-worktable>
            <thead>
              <tr>
                <th class="pickcell">
                  @if ($may)
                    <input type="checkbox" data-pick-all aria-label="Pick all">
                  @endif
                </th>
                <th>Prefix</th>
                <th>Stands</th>
                <th>At {{ $outside->name }}</th>
                <th>In the plan</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($lines as $l)
                <tr>
                  <td class="pickcell">
                    @if ($may && in_array($l->state->value, ['differs', 'missing here', 'missing there'], true))
                      <input type="checkbox" class="pick" form="bring" name="take[]" value="{{ $l->key() }}" aria-label="Pick {{ $l->prefix() }}">
                    @endif
                  </td>
                  <td class="mono">
                    @if ($l->here)
                      <a href="{{ at('plan.prefix', $l->here->id) }}">{{ $l->prefix() }}</a>
                    @else
                      {{ $l->prefix() }}
                    @endif
                    <br><span class="hint">{{ $l->groups() ? 'pool, supernet' : 'part, subnet' }}</span>
                  </td>
                  <td class="wrap">@mark($marks[$l->state->value]) {{ $l->state->value }}
                    @if ($l->why !== '')
                      <br><span class="hint">{{ $l->why }}</span>
                    @endif
                  </td>
                  @foreach ([$l->there, $l->here] as $side)
                    <td class="wrap">
                      @if ($side === null)
                        <span class="open">not there</span>
                      @else
                        @foreach ($l->fields === [] ? ['name'] : $l->fields as $field)
                          <span class="hint">{{ \HarborPost\Core\Planning\Sides\Held::VALUES[$field] }}</span>
                          @forelse ($side->value($field) as $v)
                            <span class="mono">{{ $v }}</span>
                            @if (in_array($field, ['resolvers', 'leases'], true) && !isset($servers[$v]))
                              <span class="hint">(unknown to us)</span>
                            @endif
                          @empty
                            <span class="open">none</span>
                          @endforelse
                          @if (!$loop->last)
                            <br>
                          @endif
                        @endforeach
                      @endif
                    </td>
                  @endforeach
                </tr>
              @endforeach
            </tbody>
          </x-table>
          @if ($pages > 1)
            <p class="pad row">
              <span class="grow soft">{{ number_format($count) }} lines, page {{ $page }} of {{ $pages }}</span>
              @if ($page > 1)
                <a class="btn small" href="{{ $link(['state' => $state?->value, 'page' => $page - 1]) }}">Back</a>
              @endif
              @if ($page < $pages)
                <a class="btn small" href="{{ $link(['state' => $state?->value, 'page' => $page + 1]) }}">On</a>
              @endif
            </p>
          @endif
        @endif
      </section>
      @foreach ($runs as $r)
        <details class="panel" @if ($loop->first) open id="run" @endif
          @if ($r->state->runs()) hx-get="{{ at('ship.outside.one', $outside->id) }}" hx-trigger="every 2s" hx-select="#run" hx-swap="outerHTML" @endif>
          <summary class="bar-line">
            @mark($r->state === App\Models\RunState::Done ? 'ok' : 'warn') <b>Run {{ $r->started_at->diffForHumans() }}</b>
            <span class="soft">{{ $r->state->value }}, {{ count($r->steps) }} of {{ count($r->steps) + count($r->chosen) }} lines</span>
          </summary>
          @if ($r->state->runs() && $may)
            <form class="pad" method="post" action="{{ at('ship.outside.stop', $outside->id, $r->id) }}">@csrf
              <button class="btn stop small">Stop it</button>
            </form>
          @endif
          <ul class="lines pad">
            @foreach (array_slice($r->steps, 0, 200) as $step)
              <li>@mark(App\Models\StepState::from($step['state'])->mark()) <b class="mono">{{ $step['prefix'] }}</b>
                {{ ['put' => 'told', 'cut' => 'removed', 'take' => 'taken in'][$step['what']] ?? $step['what'] }}: {{ $step['message'] }}</li>
            @endforeach
          </ul>
        </details>
      @endforeach
    </div>
    <aside class="side">
      @if ($may)
        <section class="follows" aria-label="What follows">
          <h2>Bring the picked lines</h2>
          <p class="hint">All is read again before anything is written; what became so meanwhile is left alone. Lease servers follow from scopes and are
            told there, not taken.</p>
          <form id="bring" method="post" action="{{ at('ship.outside.one', $outside->id) }}">
            @csrf
            <div class="field">
              <span><label for="reason">Why, where rules ask for it</label></span>
              <input id="reason" name="reason" maxlength="250" autocomplete="off">
            </div>
            <div class="decide">
              <button class="btn main" name="then" value="here">Take into the plan</button>
              <button class="btn" name="then" value="draft">Into my draft</button>
              <button class="btn" name="then" value="there">Tell {{ $outside->name }}</button>
            </div>
            <label class="tick"><input type="checkbox" name="sure" value="1">they go at {{ $outside->name }} for good</label>
            <div class="decide"><button class="btn stop" name="then" value="remove">Remove them there</button></div>
          </form>
        </section>
        <section class="panel">
          <header>
            <h2>Who leads</h2>
          </header>
          <div class="pad">
            <x-act id="turn" action="turn-outside">
              <input type="hidden" name="outside" value="{{ $outside->id }}">
              <x-field form="turn" name="leads" label="Values are written first" :options="[
                  'nobody' => 'on both sides, people decide',
                  'here' => 'here, and ' . $outside->name . ' follows',
                  'there' => 'at ' . $outside->name . ', and we follow',
              ]" :value="$outside->leads->value" />
              <x-check form="turn" name="keeps" label="kept in step by itself, every five minutes" :on="$outside->keeps" />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="turn" />
      @endif
      @if ($steward)
        <details class="panel" @if (old('_form') === 'outside') open @endif>
          <summary class="bar-line"><b>Where it is reached</b></summary>
          <div class="pad">
            <x-act id="outside" action="keep-outside" :seen="['outside system:' . $outside->id => $outside->version]">
              <input type="hidden" name="id" value="{{ $outside->id }}">
              @include('ship.outside-fields')
            </x-act>
          </div>
        </details>
        <div id="follows-outside"></div>
        <x-cut id="cut" action="remove-outside" :input="['outside' => $outside->id]" label="Remove it here" class="row end" />
      @endif
    </aside>
  </div>
</x-layout>
