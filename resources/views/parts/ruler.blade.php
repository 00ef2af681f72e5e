{{-- The ruler of a supernet, below the strip of what holds it when there is one. $ruler, $context --}}
@php
  $bars = fn() => collect(range(0, 15))->filter(fn($i) => $i % 2 === 0);
@endphp
<section class="panel chart" id="ruler" data-ruler="{{ $ruler->range }}" data-at="{{ request()->url() }}" data-whole="{{ $prefix->prefix() }}"
  data-top="{{ $context ? 142 : 22 }}"
  aria-label="Ruler of {{ $ruler->range }}: {{ count($ruler->blocks) }} blocks; the table below says the same in words">
  <svg class="strip" height="{{ $context ? 226 : 106 }}" role="group">
    @if ($context)
      @foreach ($context->ticks as $t)
        <text class="mono" x="{{ $t['x'] }}%" dx="5" y="12">{{ $t['text'] }}</text>
      @endforeach
      <text class="sub" x="12.5%" dx="30" y="12">{{ $context->bar }}</text>
      @foreach ($bars() as $i)
        <rect class="bar" x="{{ $i * 6.25 }}%" y="16" width="6.25%" height="6" />
      @endforeach
      <rect class="box" y="16" width="100%" height="6" />
      {{ \App\View\Strip::draw($context->blocks, 22, 74) }}
      @php
        $chosen = collect($context->blocks)->first(fn($b) => str_contains($b->look, 'chosen'));
      @endphp
      @if ($chosen)
        <svg y="96" height="30" width="100%" viewBox="0 0 100 100" preserveAspectRatio="none">
          <path class="cast"
            d="M{{ $chosen->x }} 0C{{ $chosen->x }} 40 0 4 0 50V100H100V50C100 4 {{ $chosen->x + $chosen->width }} 40 {{ $chosen->x + $chosen->width }} 0z" />
        </svg>
      @endif
    @endif
    <g transform="translate(0 {{ $context ? 120 : 0 }})">
      @foreach ($ruler->ticks as $t)
        <text class="mono" x="{{ $t['x'] }}%" dx="5" y="12">{{ $t['text'] }}</text>
      @endforeach
      <text class="sub" x="12.5%" dx="{{ $ruler->ticks === [] ? 5 : 30 }}" y="12">{{ $ruler->bar }}</text>
      @if ($ruler->broken)
        <path class="tickline" d="M0 19h18l4-5 6 10 4-5h9999" />
      @else
        @foreach ($bars() as $i)
          <rect class="bar" x="{{ $i * 6.25 }}%" y="16" width="6.25%" height="6" />
        @endforeach
        <rect class="box" y="16" width="100%" height="6" />
      @endif
    </g>
    {{ \App\View\Strip::draw($ruler->blocks, $context ? 142 : 22, 80) }}
  </svg>
  <p class="zoomer">
    @if ($mayCarve ?? false)
      <span class="hint" data-help-key="↓ ↑, Shift ← →"
        data-help-text="halve, double and move a part of the open block in focus; Enter takes it">drag across open water to choose a part of it, or
        press ↓ on it</span>
      <span class="mono" aria-live="polite" data-said></span>
    @endif
    <a class="btn small" data-zoom="in" data-help-key="+" data-help-text="zoom in on the block in focus"
      href="{{ request()->url() }}?zoom={{ urlencode((string) $ruler->range) }}&amp;at=0&amp;by=2#ruler" aria-label="Zoom in">+</a>
    @if (!$ruler->range->equals($prefix->prefix()))
      <a class="btn small" data-zoom="out" data-help-key="-" data-help-text="zoom out"
        href="{{ request()->url() }}?zoom={{ urlencode((string) $ruler->range) }}&amp;at=0&amp;by=-2#ruler" aria-label="Zoom out">−</a>
    @endif
  </p>
</section>
