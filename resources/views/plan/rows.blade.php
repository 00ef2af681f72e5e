<x-table label="Prefixes" data-worktable>
  <thead>
    <tr>
      @if ($pick)
        <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
      @endif
      <th>Name</th>
      <th>Prefix</th>
      <th>Site</th>
      <th class="num">VLAN</th>
      <th class="num">Usable</th>
      <th>Waterline</th>
    </tr>
  </thead>
  <tbody>
    @foreach ($rows as $r)
      @if ($r instanceof \App\Models\Prefix)
        {{-- Columns as they are: reading them through the model costs more than drawing the row. --}}
        @php
          $a = $r->getAttributes();
          $lv = \App\View\Level::of($r);
          $net = (string) $r->prefix();
          $label = $a['name'] !== '' ? $a['name'] : $net;
          $mine = $touched['prefix:' . $a['id']] ?? null;
        @endphp
        <tr @class(['drafted' => $mine !== null])>
          @if ($pick)
            <td class="pickcell"><input type="checkbox" class="pick" form="bulk" name="prefixes[]" value="{{ $a['id'] }}"
                aria-label="Pick {{ $label }}"></td>
          @endif
          <td class="name">{{ \App\View\Draw::swatch($a['stage']) }}<a href="/plan/prefix/{{ $a['id'] }}">{{ $label }}</a>
            @if ($a['kind'] === 'pool')
              <span class="hint">pool</span>
              @endif @if ($mine)
                @mark('turn', $mine)
              @endif
          </td>
          <td class="mono">{{ $net }}</td>
          <td>{{ $r->site?->name }}</td>
          <td class="num">{{ $r->vlan?->number }}</td>
          <td class="num">
            @if ($a['kind'] === 'subnet')
              {{ ($u = \App\View\Level::usable((int) $a['family'], (int) $a['length'])) === null ? '2^' . (128 - $a['length']) : number_format($u) }}
            @endif
          </td>
          <td>{{ \App\View\Draw::gauge($lv->percent, $lv->figure, $lv->high) }}</td>
        </tr>
      @else
        <tr class="open">
          @if ($pick)
            <td class="pickcell"></td>
          @endif
          <td>{{ \App\View\Draw::swatch('open') }}/{{ $r->length }} open</td>
          <td class="mono"><a href="?prefix={{ urlencode((string) $r) }}#carve"
              data-choose-prefix="{{ $r }}">{{ $r }}</a></td>
          <td colspan="4"></td>
        </tr>
      @endif
    @endforeach
  </tbody>
</x-table>
@if ($next)
  <p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['from' => $next]) }}">Further, from {{ $next }}</a></p>
@endif
