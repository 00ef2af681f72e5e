{{-- Settings that flow down: $layers of Inherited::of(), $layer and $object where an override would be set, $may --}}
<table class="layers">
  <thead>
    <tr>
      <th>Setting</th>
      <th>Value</th>
      <th>From</th>
    </tr>
  </thead>
  <tbody>
    @foreach ($layers as $key => $l)
      <tr>
        <td>{{ \App\Queries\Inherited::KEYS[$key][0] }}</td>
        <td class="mono wrap">
          @if ($l['value'] === [])
            <span class="open">not set</span>
            @else{{ implode(', ', $l['value']) }}
          @endif
        </td>
        <td class="wrap">
          @if ($l['origin'])
            <span class="origin">
              @if ($l['origin']['id'] === $object && $l['origin']['layer'] === $layer)
                <b>here</b>
              @elseif($l['origin']['link'])
                <a href="{{ $l['origin']['link'] }}">{{ $l['origin']['label'] }}</a>
                @else{{ $l['origin']['label'] }}
              @endif
            </span>
            @foreach ($l['hides'] as $h)
              <br><span class="hint">hides {{ $h['label'] }}: {{ implode(', ', $h['value']) }}</span>
            @endforeach
          @endif
        </td>
      </tr>
    @endforeach
  </tbody>
</table>
@if ($may)
  <details class="more pad">
    <summary>Set here, or give back</summary>
    <x-act id="setting" action="set-setting" :stay="$stay ?? request()->getRequestUri()"><input type="hidden" name="layer" value="{{ $layer }}">
      <input type="hidden" name="object" value="{{ $object }}">
      <x-field form="setting" name="key" label="Setting" :options="array_map(fn($k) => $k[0], \App\Queries\Inherited::KEYS)" />
      <x-field form="setting" name="value" label="Value" mono
        hint="blank gives the override back; resolvers and suffixes apart by blanks; the gateway habit is first, last or none" /></x-act>
  </details>
  <div id="follows-setting"></div>
@endif
