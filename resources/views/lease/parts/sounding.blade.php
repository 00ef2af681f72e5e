{{-- $rows of View\Sounding, $net where routers are judged, $touched rows of the draft, $fixed lines that a server computes --}}
<table class="sounding">
  <thead>
    <tr>
      <th>Option</th>
      @foreach (\App\View\Sounding::LAYERS as $layer)
        <th class="depth" title="{{ $layer->label() }}">{{ \App\View\Words::layer($layer) }}</th>
      @endforeach
      <th>Value sent</th>
      <th>Bytes</th>
    </tr>
  </thead>
  <tbody>
    @foreach ($fixed as $f)
      <tr>
        <td><span class="code">{{ $f['code'] }}</span>{{ $f['name'] }}</td>
        <td colspan="7" class="open computed">{{ $f['from'] }}</td>
        <td class="mono wrap">{{ $f['words'] }}</td>
        <td class="mono soft wrap">{{ $f['bytes'] }}</td>
      </tr>
    @endforeach
    @foreach ($rows as $r)
      <tr>
        <td title="{{ $r->standard }}"><span class="code">{{ $r->code }}</span>{{ $r->name }}</td>
        @foreach ($r->cells as $i => $c)
          <td class="depth d{{ $i + 1 }} {{ $c['state'] }}" @if ($c['says'] !== '') title="{{ $c['says'] }}" @endif>
            <span class="sr">{{ $c['says'] === '' ? '' : $c['layer']->label() . ': ' . $c['says'] }}</span>
          </td>
        @endforeach
        <td class="mono wrap">
          @if ($r->value->values === [])
            <span class="open">none, on purpose</span>
          @else
            {{ $r->value->words() }}
          @endif
          @if ($r->code === 3 && $net && \App\View\Words::offLink($r->value->values, $net))
            @mark('warn') <span class="warn">not in {{ $net }}: clients cannot reach it</span>
          @endif
        </td>
        <td class="mono soft wrap">{{ $r->bytes }}</td>
      </tr>
    @endforeach
  </tbody>
</table>
