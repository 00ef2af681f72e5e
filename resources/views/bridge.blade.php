<x-layout title="Bridge">
  <header class="title">
    <h1>Bridge</h1>
    <span class="soft">{{ now()->format('l j F, H:i') }}</span>
    @if (auth()->user()->panels)
      <form class="end" method="post" action="{{ at('act', 'set-panels') }}">
        @csrf
        <input type="hidden" name="then" value="commit">
        <input type="hidden" name="order" value="">
        <button class="btn small">Back to the given order</button>
      </form>
    @endif
  </header>
  <div class="bridge">
    @foreach ($panels as $key => $lines)
      @php
        [$title, $empty] = \App\Queries\Bridge::PANELS[$key];
        $at = array_search($key, $order, true);
        $moved = function (int $by) use ($order, $at): string {
            $to = $order;
            [$to[$at], $to[$at + $by]] = [$to[$at + $by], $to[$at]];
            return implode(' ', $to);
        };
      @endphp
      <section class="panel" aria-labelledby="panel-{{ $key }}">
        <header>
          <h2 id="panel-{{ $key }}">{{ $title }}</h2>
          @if (in_array($key, ['waits', 'wrong'], true) && $lines !== [])
            <span class="soft">{{ count($lines) }}</span>
          @endif
          <span class="end row">
            @if (in_array($key, ['report', 'chart'], true) && ($lines !== [] || ($key === 'chart' && $chart)))
              <form method="post" action="{{ at('act', 'set-panels') }}">
                @csrf
                <input type="hidden" name="then" value="commit">
                <input type="hidden" name="{{ $key === 'report' ? 'report' : 'server' }}" value="-">
                <button class="btn bare small" aria-label="Keep no {{ $key }} here">Another</button>
              </form>
            @endif
            @foreach ([-1 => 'earlier', 1 => 'later'] as $by => $where)
              @if (isset($order[$at + $by]))
                <form method="post" action="{{ at('act', 'set-panels') }}">
                  @csrf
                  <input type="hidden" name="then" value="commit">
                  <input type="hidden" name="order" value="{{ $moved($by) }}">
                  <button class="btn bare small" aria-label="Move {{ $title }} {{ $where }}">{{ $by < 0 ? '↑' : '↓' }}</button>
                </form>
              @endif
            @endforeach
            <form method="post" action="{{ at('act', 'set-panels') }}">
              @csrf
              <input type="hidden" name="then" value="commit">
              <input type="hidden" name="hide" value="{{ $key }}">
              <button class="btn bare small" aria-label="Take {{ $title }} away" title="Take it away">−</button>
            </form>
          </span>
        </header>
        @if ($key === 'chart' && $chart)
          <p class="pad"><a href="{{ at('watch.server', $chart['server']->id) }}">{{ $chart['server']->name }}</a>
            <span class="mono">{{ $chart['family'] }}</span> <span class="soft">in a day</span></p>
          <div class="pad">
            @if ($chart['course']['lines'] === [])
              <span class="open">Nothing was measured in this time.</span>
            @else
              {{ \App\View\Chart::of($chart['course'], "{$chart['server']->name}, {$chart['family']}, the last day") }}
            @endif
          </div>
        @elseif ($lines === [])
          <p class="pad open">{{ $empty }}</p>
        @else
          <ul class="bridge-lines">
            @foreach ($lines as $line)
              <li>
                @if ($line['mark'] !== '')
                  @mark($line['mark'])
                @else
                  <i></i>
                @endif
                <span>
                  @if ($line['link'])
                    <a href="{{ $line['link'] }}">{{ $line['words'] }}</a>
                  @else
                    {{ $line['words'] }}
                  @endif
                  <span class="hint">{{ $line['hint'] }}</span>
                </span>
              </li>
            @endforeach
          </ul>
        @endif
      </section>
    @endforeach
  </div>
  @if ($away !== [])
    <div class="bar-line flat">
      <span class="soft">Taken away:</span>
      @foreach ($away as $key)
        <form method="post" action="{{ at('act', 'set-panels') }}">
          @csrf
          <input type="hidden" name="then" value="commit">
          <input type="hidden" name="show" value="{{ $key }}">
          <button class="btn small" aria-label="Put {{ \App\Queries\Bridge::PANELS[$key][0] }} back">{{ \App\Queries\Bridge::PANELS[$key][0] }}</button>
        </form>
      @endforeach
    </div>
  @endif
</x-layout>
