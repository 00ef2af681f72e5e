<thead>
  <tr>
    <x-head :list="$listed" by="number" num>VLAN</x-head>
    <x-head :list="$listed" by="name">Name</x-head>
    <x-head :list="$listed" by="domain">Domain</x-head>
    @foreach (\App\Queries\VlanSheet::COLUMNS as $c)
      <th>{{ $c }}</th>
    @endforeach
    @if ($form)
      <th class="act"></th>
    @endif
  </tr>
</thead>
<tbody>
  @foreach ($rows as $r)
    <tr @class(['editing' => $in->is($r->id)]) data-row="{{ $r->id }}">
      @if ($in->is($r->id))
        <td class="num"><x-field bare form="changeit" name="number" label="Number" :value="$r->number" class="num" /></td>
        <td><x-field bare form="changeit" name="name" label="Name" :value="$r->name" autofocus /></td>
      @else
        <td class="num">{{ $r->number }}</td>
        <td class="name"><a href="{{ at('directory.vlan', $r->id) }}">{{ $r->name }}</a></td>
      @endif
      <td>{{ $r->domain->name }}</td>
      @foreach ($sheet[$r->id] as $cell)
        <td class="wrap">{{ \App\View\Draw::cell($cell) }}</td>
      @endforeach
      @if ($form)
        <x-row-act :$in :id="$r->id" :label="$r->name" />
      @endif
    </tr>
  @endforeach
</tbody>
@if ($adds)
  <tfoot>
    <tr class="addrow">
      <td class="num"><x-field bare form="rowadd" name="number" label="Number of a new VLAN" class="num" placeholder="110" /></td>
      <td><x-field bare form="rowadd" name="name" label="Name of a new VLAN" placeholder="VLAN" /></td>
      <td><x-field bare form="rowadd" name="domain" label="Domain of a new VLAN" pick="layer-2 domain" blank="domain" /></td>
      <td colspan="{{ count(\App\Queries\VlanSheet::COLUMNS) + 1 }}">
        <button class="btn small" form="rowadd" name="then" value="preview">Add</button></td>
    </tr>
  </tfoot>
@endif
