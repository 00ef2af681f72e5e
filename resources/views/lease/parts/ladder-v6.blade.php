{{-- The messages of an exchange of DHCPv6: $steps of App\Live\ExchangeV6 --}}
<div class="split even">
  @include('lease.parts.ladder')
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
