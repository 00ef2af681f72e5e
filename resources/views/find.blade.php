<x-layout :title="'Find '.$q">
  <header class="title"><h1>Find</h1><span class="mono">{{ $q }}</span></header>
  @if($q === '')<div class="empty"><h3>What are you looking for?</h3><p class="soft">An address, a prefix in any form, a name from its start, a MAC address or a VLAN number.</p></div>@else
  <div class="notice"><span class="grow">Read as {{ implode('; ', $find->understood) ?: 'nothing known' }}.</span></div>
  @php($any = collect($find->found)->contains(fn ($r) => $r->isNotEmpty()))
  <div class="split two"><div class="stack">
  @unless($any)<div class="empty"><h3>Nothing is known of it</h3><p class="soft">Names are searched from their start. @if($find->net && auth()->user()->does(\App\Models\Role::Planner))<a href="/plan">Carve it from a supernet</a>@endif</p></div>@endunless
  @foreach($find->found as $kind => $rows)@continue($rows->isEmpty())
    <section class="panel"><header><h2>{{ $kind }}</h2><span class="soft">{{ $rows->count() }}{{ $rows->count() >= 50 ? ' or more' : '' }}</span></header><div class="scroll-x" tabindex="0" role="region" aria-label="{{ $kind }}"><table data-worktable><tbody>
    @foreach($rows as $r)<tr>
      @switch($kind)
      @case('Prefixes')<td class="name">{{ \App\View\Draw::swatch($r->stage) }}<a href="/plan/prefix/{{ $r->id }}@if($find->net && $find->net->length === $find->net->family()->bits() && $r->isSubnet())?address={{ $find->net->first }}@endif">{{ $r->name ?: $r->prefix() }}</a></td><td class="mono">{{ $r->prefix() }}</td><td>{{ $r->kind }}</td><td>{{ $r->space->name }}</td><td>{{ $r->site?->name }}</td>@break
      @case('Addresses')<td class="mono"><a href="/plan/prefix/{{ $r->prefix_id }}?address={{ $r->address }}">{{ $r->address }}</a></td><td class="mono">{{ $r->name }}</td><td class="mono soft">{{ $r->mac }}</td><td>{{ $r->prefix->name }}</td><td>{{ $r->prefix->space->name }}</td>@break
      @case('Names')<td class="mono"><a href="/name/zone/{{ $r->zone_id }}?filter={{ urlencode(rtrim($r->owner, '.')) }}">{{ rtrim($r->owner, '.') }}</a></td><td>{{ $r->typeName() }}</td><td class="mono wrap">{{ Str::limit($r->data, 90) }}</td><td>{{ $r->zone->view->name }}</td>@break
      @case('Zones')<td class="name mono"><a href="/name/zone/{{ $r->id }}">{{ $r->title() }}</a></td><td>{{ $r->view->name }}</td>@break
      @case('VLANs')<td class="name"><a href="/directory/vlan/{{ $r->id }}">{{ $r->number }} {{ $r->name }}</a></td><td>{{ $r->domain->name }}</td>@break
      @case('Reservations')<td class="mono"><a href="/lease/scope/{{ $r->scope_id }}">{{ $r->address }}</a></td><td class="mono">{{ $r->mac }}</td><td>{{ $r->scope->name }}</td>@break
      @case('Leases')<td class="mono">{{ $r->address }}</td><td class="mono">{{ $r->mac }}</td><td>{{ $r->host_name }}</td><td>{{ $r->state }} on {{ $r->server->name }}</td><td title="{{ $r->ends_at }}">until {{ $r->ends_at->format('j M H:i') }}</td>@break
      @case('Scopes')<td class="name"><a href="/lease/scope/{{ $r->id }}">{{ $r->name }}</a></td><td class="mono">{{ $r->prefix->prefix() }}</td>@break
      @default<td class="name">{{ $r->name }}</td><td>{{ $r->kind }}</td>
      @endswitch
    </tr>@endforeach
    </tbody></table></div></section>
  @endforeach
  </div><aside class="side">@if($facts)<section class="panel"><header><h2>Facts</h2></header><dl class="facts pad">@include('plan.facts')<dt>Wildcard</dt><dd class="mono">{{ $facts['wildcard'] }}</dd><dt>Hex</dt><dd class="mono">{{ $facts['hex'] }}</dd></dl></section>@endif</aside></div>
  @endif
</x-layout>
