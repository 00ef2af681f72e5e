@php
  $mine = $pick ? collect($rows)->whereInstanceOf(\App\Models\Prefix::class)->keyBy('id') : collect();
  $in = \App\View\InRow::of($mine->keys(), request('edit'), request()->getPathInfo(), request()->only(['filter', 'from', 'zoom', 'sort', 'page']));
  $edited = $in->id === null ? null : $mine[$in->id];
  // What stands under one prefix is put in order by the server; a list of a few sorts itself.
  $heads = ['name' => 'Name', 'prefix' => 'Prefix', 'site' => 'Site', 'vlan' => 'VLAN', 'size' => 'Usable'];
@endphp
<x-table label="Prefixes" data-worktable :data-paged="($above ?? null) !== null">
  <thead>
    <tr>
      @if ($pick)
        <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
      @endif
      @foreach ($heads as $by => $words)
        @if ($above ?? null)
          <x-head :$order :$by :num="in_array($by, ['vlan', 'size'])">{{ $words }}</x-head>
        @else
          <th @class(['num' => in_array($by, ['vlan', 'size'])])>{{ $words }}</th>
        @endif
      @endforeach
      <th>Waterline</th>
      @if ($pick)
        <th class="act"></th>
      @endif
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
        <tr @class(['drafted' => $mine !== null, 'editing' => $in->is($a['id'])]) data-row="{{ $a['id'] }}">
          @if ($pick)
            <td class="pickcell"><input type="checkbox" class="pick" form="bulk" name="prefixes[]" value="{{ $a['id'] }}"
                aria-label="Pick {{ $label }}"></td>
          @endif
          @if ($in->is($a['id']))
            <td><x-field bare form="rowform" name="name" label="Name" :value="$a['name']" autofocus /></td>
            <td class="mono">{{ $net }}</td>
            <td><x-field bare form="rowform" name="site" label="Site" pick="site" none="-" blank="none" :value="$a['site_id'] ?? '-'"
                :shown="$r->site?->name ?? ''" /></td>
            <td><x-field bare form="rowform" name="vlan" label="VLAN" pick="VLAN" none="-" blank="none" :value="$a['vlan_id'] ?? '-'"
                :shown="$r->vlan ? $r->vlan->number . ' ' . $r->vlan->name : ''" /></td>
          @else
          <td class="name">{{ \App\View\Draw::swatch($a['stage']) }}<a href="{{ at('plan.prefix', $a['id']) }}">{{ $label }}</a>
            @if ($a['kind'] === \App\Models\PrefixKind::Pool->value)
              <span class="hint">pool</span>
              @endif @if ($mine)
                @mark('turn', $mine)
              @endif
          </td>
          <td class="mono">{{ $net }}</td>
          <td>{{ $r->site?->name }}</td>
          <td class="num">{{ $r->vlan?->number }}</td>
          @endif
          <td class="num">
            @if ($a['kind'] === \App\Models\PrefixKind::Subnet->value)
              {{ ($u = \App\View\Level::usable((int) $a['family'], (int) $a['length'])) === null ? '2^' . (128 - $a['length']) : number_format($u) }}
            @endif
          </td>
          <td>{{ \App\View\Draw::gauge($lv->percent, $lv->figure, $lv->high) }}</td>
          @if ($pick)
            <x-row-act :$in :id="$a['id']" :$label />
          @endif
        </tr>
      @else
        <tr class="open">
          @if ($pick)
            <td class="pickcell"></td>
          @endif
          <td>{{ \App\View\Draw::swatch('open') }}/{{ $r->length }} open</td>
          <td class="mono"><a href="?prefix={{ urlencode((string) $r) }}#carve"
              data-choose-prefix="{{ $r }}">{{ $r }}</a></td>
          <td colspan="{{ $pick ? 5 : 4 }}"></td>
        </tr>
      @endif
    @endforeach
  </tbody>
  {{-- An empty row carves the next: under $above, from its open space. --}}
  @if (($above ?? null) && $pick && $in->id === null)
    <tfoot>
      <tr class="addrow">
        <td></td>
        <td><x-field bare form="rowadd" name="name" label="Name of a new subnet" placeholder="name" /></td>
        <td><x-field bare form="rowadd" name="prefix" label="Prefix of a new subnet" mono :placeholder="$open" /></td>
        <td><x-field bare form="rowadd" name="site" label="Site of a new subnet" pick="site" blank="none" :value="$above->site_id ?? ''"
            :shown="$above->site->name ?? ''" /></td>
        <td><x-field bare form="rowadd" name="vlan" label="VLAN of a new subnet" pick="VLAN" blank="none" /></td>
        <td colspan="3"><button class="btn small" form="rowadd" name="then" value="preview">Carve</button></td>
      </tr>
    </tfoot>
  @endif
</x-table>
@if (($above ?? null) && $pick && $in->id === null)
  <x-row-adds :$in action="carve-prefix">
    <input type="hidden" name="space" value="{{ $above->space_id }}">
    <input type="hidden" name="in" value="{{ $above->id }}">
    <input type="hidden" name="gateway" value="habit">
  </x-row-adds>
@endif
@if ($sorted ?? null)
  <x-pages :list="$sorted" what="prefixes" />
@endif
@if ($next)
  <p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['from' => $next]) }}">Further, from {{ $next }}</a></p>
@endif
@if ($edited)
  <x-act id="rowform" action="change-prefix" :seen="['prefix:' . $edited->id => $edited->version]" :stay="$in->out()" data-inrow
    :data-next="$in->next()">
    <input type="hidden" name="prefixes[]" value="{{ $edited->id }}">
  </x-act>
  <div id="follows-rowform"></div>
@endif
