<div class="scroll-x" tabindex="0" role="region" aria-label="Prefixes"><table data-worktable>
<thead><tr>@if($pick)<th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>@endif<th>Name</th><th>Prefix</th><th>Site</th><th class="num">VLAN</th><th class="num">Usable</th><th>Waterline</th></tr></thead>
<tbody>
@foreach($rows as $r)
@if($r instanceof \App\Models\Prefix)
@php($lv = \App\View\Level::of($r))
<tr @class(['drafted' => isset($touched["prefix:$r->id"])])>@if($pick)<td class="pickcell"><input type="checkbox" class="pick" form="bulk" name="prefixes[]" value="{{ $r->id }}" aria-label="Pick {{ $r->name ?: $r->prefix() }}"></td>@endif
<td class="name">{{ \App\View\Draw::swatch($r->stage) }}<a href="/plan/prefix/{{ $r->id }}">{{ $r->name ?: $r->prefix() }}</a>@if($r->kind === 'pool') <span class="hint">pool</span>@endif @if(isset($touched["prefix:$r->id"])) <x-mark name="turn" say="in your draft"/>@endif</td>
<td class="mono">{{ $r->prefix() }}</td><td>{{ $r->site?->name }}</td><td class="num">{{ $r->vlan?->number }}</td><td class="num">@if($r->kind === 'subnet'){{ ($u = \App\View\Level::usable($r->family, $r->length)) === null ? '2^'.(128 - $r->length) : number_format($u) }}@endif</td><td>{{ \App\View\Draw::gauge($lv->percent, $lv->figure, $lv->high) }}</td></tr>
@else
<tr class="open">@if($pick)<td class="pickcell"></td>@endif<td>{{ \App\View\Draw::swatch('open') }}/{{ $r->length }} open</td><td class="mono"><a href="?prefix={{ urlencode((string) $r) }}#carve" data-choose-prefix="{{ $r }}">{{ $r }}</a></td><td colspan="4"></td></tr>
@endif
@endforeach
</tbody></table></div>
@if($next)<p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['from' => $next]) }}">Further, from {{ $next }}</a></p>@endif
