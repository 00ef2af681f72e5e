<x-layout title="Bridge">
  <header class="title">
    <h1>Bridge</h1>
    <span class="soft">{{ now()->format('l j F, H:i') }}</span>
    @if (auth()->user()->panels)
      <form class="end" method="post" action="/act/set-panels">
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
            @foreach ([-1 => 'earlier', 1 => 'later'] as $by => $where)
              @if (isset($order[$at + $by]))
                <form method="post" action="/act/set-panels">
                  @csrf
                  <input type="hidden" name="then" value="commit">
                  <input type="hidden" name="order" value="{{ $moved($by) }}">
                  <button class="btn bare small" aria-label="Move {{ $title }} {{ $where }}">{{ $by < 0 ? '↑' : '↓' }}</button>
                </form>
              @endif
            @endforeach
          </span>
        </header>
        @if ($lines === [])
          <p class="pad open">{{ $empty }}</p>
        @else
          <ul class="bridge-lines">
            @foreach ($lines as $line)
              <li>
                @mark($line['mark'])
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
</x-layout>
