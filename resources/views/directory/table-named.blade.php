<thead>
  <tr>
    <x-head :list="$listed" by="name">Name</x-head>
    @if ($list !== 'tenants')
      <x-head :list="$listed" :by="['devices' => 'kind', 'spaces' => 'rd', 'domains' => 'site'][$list]">
        {{ ['devices' => 'Kind', 'spaces' => 'Route distinguisher', 'domains' => 'Site'][$list] }}
      </x-head>
    @endif
    @if ($list === 'devices')
      <th>Owner</th>
    @endif
    <th class="num">{{ ['devices' => 'Addresses', 'domains' => 'VLANs'][$list] ?? 'Prefixes' }}</th>
    @if ($form)
      <th class="act"></th>
    @endif
  </tr>
</thead>
<tbody>
  @foreach ($rows as $r)
    <tr @class(['editing' => $in->is($r->id)]) data-row="{{ $r->id }}">
      @if ($in->is($r->id))
        <td><x-field bare form="changeit" name="name" label="Name" :value="$r->name" autofocus /></td>
      @else
        <td class="name">
          @if ($form)
            <a href="{{ request()->fullUrlWithQuery(['edit' => $r->id, 'row' => null]) }}#change">{{ $r->name }}</a>
          @else
            {{ $r->name }}
          @endif
        </td>
      @endif
      @if ($list === 'devices' && $in->is($r->id))
        <td><x-field bare form="changeit" name="kind" label="Kind" :value="$r->kind" /></td>
      @elseif ($list === 'spaces' && $in->is($r->id))
        <td><x-field bare form="changeit" name="routeDistinguisher" label="Route distinguisher, - for none" mono
            :value="$r->route_distinguisher ?? ''" /></td>
      @elseif ($list === 'domains' && $in->is($r->id))
        <td><x-field bare form="changeit" name="site" label="Site" pick="site" none="-" blank="none" :value="$r->site_id ?? '-'"
            :shown="$r->site?->name ?? ''" /></td>
      @elseif ($list !== 'tenants')
        <td>{{ $list === 'domains' ? $r->site?->name : ($list === 'spaces' ? $r->route_distinguisher : $r->kind) }}</td>
      @endif
      @if ($list === 'devices')
        <td>{{ $owner->words($r) }}</td>
      @endif
      <td class="num">{{ $counts[$r->id] ?? '' }}</td>
      @if ($form)
        <x-row-act :$in :id="$r->id" :label="$r->name" />
      @endif
    </tr>
  @endforeach
</tbody>
@if ($adds)
  <tfoot>
    <tr class="addrow">
      <td><x-field bare form="rowadd" name="name" :label="'Name of a new ' . $one" :placeholder="$one" /></td>
      @if ($list === 'devices')
        <td><x-field bare form="rowadd" name="kind" label="Kind of a new device" placeholder="kind" /></td>
        <td></td>
      @elseif ($list === 'spaces')
        <td><x-field bare form="rowadd" name="routeDistinguisher" label="Route distinguisher of a new space" mono placeholder="64500:1" /></td>
      @elseif ($list === 'domains')
        <td><x-field bare form="rowadd" name="site" label="Site of a new layer-2 domain" pick="site" blank="none" /></td>
      @endif
      <td></td>
      <td class="act"><button class="btn small" form="rowadd" name="then" value="preview">Add</button></td>
    </tr>
  </tfoot>
@endif
