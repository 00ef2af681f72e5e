<x-layout :title="$zone->title() . ', drift'" verb="name">
  <nav aria-label="Above this zone">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li><a href="{{ at('name.zone', $zone->id) }}">{{ $zone->title() }}</a></li>
      <li><a href="{{ at('name.zone.service', $zone->id) }}">Service</a></li>
      <li aria-current="page">Drift</li>
    </ol>
  </nav>
  <header class="title">
    <h1>What changed on {{ $primary->name }}</h1>
    <span class="mono soft">{{ $zone->title() }}, {{ $zone->view->name }}</span>
  </header>
  @if ($problem)
    <div class="fault" role="alert">
      <h3>@mark('stop'){{ $primary->name }} could not be read</h3>
      <p>{{ $problem }}</p>
    </div>
  @elseif ($act->come === [] && $act->gone === [])
    <section class="panel">
      <div class="empty">
        <h3>@mark('ok'){{ $primary->name }} serves the zone as planned</h3>
        <p class="soft">Read as a whole, record by record; serial {{ $act->serial }}.</p>
      </div>
    </section>
  @else
    @php
      $total = count($act->come) + count($act->gone);
      $lists = ['+' => array_slice($act->come, 0, 300), '−' => array_slice($act->gone, 0, 300)];
    @endphp
    <div class="split two">
      <section class="panel">
        <header>
          <h2>Against the plan</h2>
          <span class="soft">serial there {{ $act->serial }}, here {{ $zone->serial }}</span>
        </header>
        <ul class="diffs pad">
          @foreach ($lists as $sign => $lines)
            @foreach ($lines as $line)
              <li @class(['chosen' => $may])>
                @if ($may)
                  <label class="tick"><input type="checkbox" form="take" name="take[]"
                      value="{{ App\Acts\Name\TakeRunning::lineKey($sign, $line) }}" aria-label="Take: {{ $line }}"></label>
                @endif
                <span @class(['op', 'stopped' => $sign === '−'])>{{ $sign }} {{ $sign === '+' ? 'only there' : 'only planned' }}</span>
                <span @class(['cutline' => $sign === '−'])>{{ $line }}</span>
              </li>
            @endforeach
          @endforeach
        </ul>
        @if ($total > count($lists['+']) + count($lists['−']))
          <p class="hint pad">and more; the first 300 of each side are shown</p>
        @endif
      </section>
      @if ($may)
        <aside class="side">
          <section class="follows" aria-label="What follows">
            <h2>What follows</h2>
            <p class="cause">{{ count($act->come) }} records are only there, {{ count($act->gone) }} only in the plan</p>
            <p class="hint">What you do not take stays a difference, and the next shipment undoes it there.</p>
            <form id="take" method="post" action="{{ at('name.zone.drift', $zone->id) }}">
              @csrf
              <div class="field">
                <span><label for="reason">Why in spite of a warning, if there is one</label></span>
                <input id="reason" name="reason" maxlength="250" autocomplete="off">
              </div>
              <div class="decide">
                <button class="btn main" data-key="main">Take the chosen <kbd>Ctrl Enter</kbd></button>
                <button class="btn" name="all" value="1">Take all {{ $total }}</button>
              </div>
            </form>
            <form method="post" action="{{ at('ship.server', $primary->id) }}">
              @csrf
              <input type="hidden" name="only[]" value="{{ $zone->id }}">
              <input type="hidden" name="deep" value="1">
              <div class="decide"><button class="btn stop">Undo it there: ship the plan</button></div>
            </form>
          </section>
        </aside>
      @endif
    </div>
  @endif
</x-layout>
