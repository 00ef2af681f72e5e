<thead>
  <tr>
    <th>Site</th>
    <th>In</th>
    <th>Owner</th>
    <th class="num">Prefixes</th>
    <th class="num">In use</th>
    <th class="num">Usable</th>
    <th>Waterline</th>
    @if ($form)
      <th class="act"></th>
    @endif
  </tr>
</thead>
<tbody>
  @foreach ($siteUse->sites() as $r)
    @php
      $use = $siteUse->use($r);
    @endphp
    <tr @class(['editing' => $in->is($r->id)]) data-row="{{ $r->id }}">
      @if ($in->is($r->id))
        <td><x-field bare form="changeit" name="name" label="Name" :value="$r->name" autofocus /></td>
        <td><x-field bare form="changeit" name="parent" label="In" pick="site" none="-" blank="nothing" :value="$r->parent_id ?? '-'"
            :shown="$r->parent->name ?? ''" /></td>
      @else
        <td class="name inside-{{ min(6, $siteUse->depth($r)) }}"><a href="{{ at('directory.site', $r->id) }}">{{ $r->name }}</a></td>
        <td>{{ $r->parent?->name }}</td>
      @endif
      <td>{{ $owner->words($r) }}</td>
      <td class="num">{{ $siteUse->prefixes($r) ?: '' }}</td>
      <td class="num">{{ $use['usable'] > 0 ? number_format($use['used']) : '' }}</td>
      <td class="num">{{ $use['usable'] > 0 ? number_format($use['usable']) : '' }}</td>
      <td>
        @if ($use['usable'] > 0)
          {{ \App\View\Draw::gauge($use['percent'], round($use['percent']) . '%', $use['percent'] >= (float) config('harbor.high_water')) }}
        @endif
      </td>
      @if ($form)
        <x-row-act :$in :id="$r->id" :label="$r->name" />
      @endif
    </tr>
  @endforeach
</tbody>
@if ($adds)
  <tfoot>
    <tr class="addrow">
      <td><x-field bare form="rowadd" name="name" label="Name of a new site" placeholder="site" /></td>
      <td><x-field bare form="rowadd" name="parent" label="In" pick="site" blank="nothing" /></td>
      <td colspan="5"></td>
      <td class="act"><button class="btn small" form="rowadd" name="then" value="preview">Add</button></td>
    </tr>
  </tfoot>
@endif
