{{-- The messages of an exchange of DHCPv6: $steps of App\Live\ExchangeV6 --}}
@php
  $other = $steps[0]['to'];
@endphp
<div class="split even">
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
  <div class="stack">
    @foreach ($steps as $s)
      <details class="panel" @if ($s['type'] === 'REPLY' && $s['text'] !== '') open @endif>
        <summary class="bar-line"><b>{{ $s['type'] }}</b> <span class="soft">{{ strlen($s['bytes']) }} bytes through the relay</span></summary>
        <table class="bytes">
          <tbody>
            @foreach (\HarborPost\Core\Dhcp\V6\OptionReader::read($s['message']->wire()) as $line)
              <tr>
                <td>{{ \HarborPost\Core\Bytes\Hex::spaced($line['bytes']) }}</td>
                <td class="deep-{{ min(4, $line['depth']) }}">{{ $line['code'] }} {{ $line['name'] }}: <b>{{ $line['meaning'] }}</b></td>
              </tr>
            @endforeach
          </tbody>
        </table>
        <details class="pad">
          <summary class="hint">all bytes</summary>
          <pre class="hexdump" tabindex="0">{{ \App\View\Dump::of($s['bytes']) }}</pre>
        </details>
      </details>
    @endforeach
  </div>
</div>
