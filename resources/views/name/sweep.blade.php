<x-layout title="Forward and reverse" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Forward and reverse</li>
    </ol>
  </nav>
  @php
    $mends = $sweep !== null && $may && $code !== \App\Queries\NameSweep::UNCOVERED;
  @endphp
  @if ($sweep === null)
    <header class="title">
      <h1>Forward and reverse</h1>
    </header>
    <section class="panel">
      <div class="empty">
        <h3>Never compared</h3>
        <p class="soft">Every address record is held against every pointer: what has no PTR, where the PTR says something else, PTRs whose name is
          gone, addresses with several names. Chosen ones are mended as one act.</p>
        @if ($may)
          <form method="post" action="{{ at('name.sweep') }}">@csrf
            <button class="btn main" data-key="main">Compare now <kbd>Ctrl Enter</kbd></button>
          </form>
        @endif
      </div>
    </section>
  @else
    <div id="sweep-body" class="stack"
      @if ($sweep->isRunning()) hx-get="{{ at('name.sweep.one', $sweep->id) }}" hx-trigger="every 1s" hx-select="#sweep-body" hx-swap="outerHTML" @endif>
      <header class="title">
        <h1>Forward and reverse</h1>
        <span class="soft">{{ $sweep->state->value }}, {{ $sweep->started_at->diffForHumans() }}; {{ number_format($sweep->records) }} of
          {{ number_format($sweep->total) }} records looked at</span>
        @if ($may && !$sweep->isRunning())
          <span class="end">
            <form method="post" action="{{ at('name.sweep') }}">@csrf
              <button class="btn small">Compare again</button>
            </form>
          </span>
        @endif
      </header>
      @if ($sweep->isRunning())
        <section class="panel pad-all"><label
            for="bar">{{ $sweep->state->waits() ? 'Waiting for its turn' : number_format($sweep->records) . ' records looked at' }}</label>
          <progress id="bar" max="{{ max(1, $sweep->total) }}" value="{{ $sweep->records }}"></progress>
          <form method="post" action="{{ at('name.sweep.cancel', $sweep->id) }}">@csrf
            <button class="btn small">Cancel</button>
          </form>
        </section>
      @endif
      @if ($sweep->message)
        <div class="fault" role="alert">
          <h3>@mark('stop')It stopped after {{ number_format($sweep->records) }} records</h3>
          <p>{{ $sweep->message }}</p>
        </div>
      @endif
      <div class="split two">
        <section class="panel">
          <div class="bar-line"><span class="oneof">
              @foreach (\App\Queries\NameSweep::LABELS as $c => $label)
                <a href="?code={{ $c }}" @if ($c === $code) aria-current="true" @endif>{{ number_format($left[$c] ?? 0) }}
                  {{ $label }}</a>
              @endforeach
            </span>
          </div>
          @if ($rows->isEmpty())
            <div class="empty">
              <h3>@mark('ok')None {{ ($sweep->counts[$code] ?? 0) > 0 ? 'left' : '' }}</h3>
            </div>
          @else
            <x-table label="Disagreements" data-worktable :data-paged="(bool) $next || request()->hasAny(['after', 'before'])">
              <thead>
                <tr>
                  @if ($mends)
                    <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
                  @endif
                  <th>Address</th>
                  <th>{{ $code === 'orphan' ? 'PTR' : 'Name' }}</th>
                  <th>{{ $code === 'missing' ? '' : 'PTR says' }}</th>
                  <th>Mended by</th>
                </tr>
              </thead>
              <tbody>
                @foreach ($rows as $r)
                  <tr>
                    @if ($mends)
                      <td class="pickcell"><input type="checkbox" class="pick" form="mend" name="findings[]" value="{{ $r['id'] }}"
                          aria-label="Pick {{ $r['address'] }}"></td>
                    @endif
                    <td class="mono"><a href="{{ at('find') }}?q={{ $r['address'] }}">{{ $r['address'] }}</a></td>
                    <td class="mono"><a href="{{ at('find') }}?q={{ urlencode($r['name']) }}">{{ $r['name'] }}</a></td>
                    <td class="mono">{{ $r['says'] }}</td>
                    <td>
                      @if ($code === \App\Queries\NameSweep::UNCOVERED)
                        <a href="{{ at('name.reverse') }}?nets={{ urlencode($r['net']) }}">making the reverse zone of {{ $r['net'] }}</a>
                      @endif
                      @php
                $mends = ['missing' => 'writing the PTR', 'differing' => 'turning the PTR', 'orphan' => 'removing the PTR'];
                      @endphp
              {{ ($mends + ['several' => 'letting the PTR carry this name'])[$code] ?? '' }}
                    </td>
                  </tr>
                @endforeach
              </tbody>
            </x-table>
            @if ($next)
              <p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['after' => $next]) }}">Further</a></p>
            @endif
          @endif
        </section>
        <aside class="side">
          @if ($mends && !$sweep->isRunning() && $rows->isNotEmpty())
            <section class="panel">
              <header>
                <h2>Mend</h2>
              </header>
              <div class="pad">
                <x-act
                  id="mend"
                  action="mend-names"
                  :stay="at('name.sweep.one', $sweep->id) . '?code=' . $code"
                ><input type="hidden" name="sweep" value="{{ $sweep->id }}">
                  <input type="hidden" name="code" value="{{ $code }}">
                  <p class="hint"><span data-picked>0</span> picked. With none picked, all {{ number_format($left[$code] ?? 0) }} of this kind are
                    taken, 5,000 at once.</p>
                </x-act>
              </div>
            </section>
            <x-follows-slot form="mend" />
          @endif
        </aside>
      </div>
    </div>
  @endif
</x-layout>
