{{-- The messages between a client and a server in their order: $steps of an exchange --}}
@php
  $other = $steps[0]['to'];
@endphp
<section class="panel">
  <header>
    <h2>Ladder</h2>
    <span class="hint">client and {{ $other }}</span>
  </header>
  <svg class="strip ladder pad" height="{{ 40 + 46 * count($steps) }}" role="img"
    aria-label="{{ collect($steps)->map(fn($s) => $s['type'] . ' ' . $s['text'])->implode(', then ') }}">
    <text class="mono mid" x="22%" y="12">client</text>
    <text class="mono mid" x="86%" y="12">{{ $other }}</text>
    <line class="life" x1="22%" x2="22%" y1="20" y2="100%" />
    <line class="life" x1="86%" x2="86%" y1="20" y2="100%" />
    @foreach ($steps as $i => $s)
      @php
        $y = 48 + 46 * $i;
        $right = $s['from'] === 'client';
      @endphp
      <text class="sub" x="0" y="{{ $y + 4 }}">{{ number_format($s['at'], 1) }} ms</text>
      <line x1="{{ $right ? 22 : 86 }}%" x2="{{ $right ? 86 : 22 }}%" y1="{{ $y }}" y2="{{ $y }}" marker-end="url(#head)" />
      <text x="22%" dx="10" y="{{ $y - 7 }}">
        <tspan class="nm">{{ $s['type'] }}</tspan> {{ $s['text'] }}
      </text>
    @endforeach
  </svg>
</section>
