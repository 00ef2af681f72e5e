@php($ago = fn ($t) => $t === null ? '' : $t->diffForHumans(['short' => true]))
@if($evidence['rows'] === [])<div class="empty"><h3>{{ $conflicts ? 'Nothing disagrees on this page' : 'Nothing is known of any address here' }}</h3><p class="soft">{{ $conflicts ? 'What is planned, named, reserved, leased and seen tells the same.' : 'Place a host, lease an address, or scan the subnet.' }}</p></div>@else
<div class="scroll-x" tabindex="0" role="region" aria-label="Evidence"><table data-worktable><thead><tr><th>Address</th><th>Planned</th><th>In DNS</th><th>Reserved</th><th>Leased</th><th>Seen</th><th>Verdict</th></tr></thead><tbody>
@foreach($evidence['rows'] as $r)<tr><td class="mono">@if($r['host'])<a href="/plan/prefix/{{ $prefix->id }}?address={{ $r['address'] }}">{{ $r['address'] }}</a>@else{{ $r['address'] }}@endif</td>
<td class="wrap mono">@if($r['host']){{ $r['host']->name ?: 'no name' }}<br><span class="hint">{{ $r['host']->mac }}</span>@else<span class="open">no</span>@endif</td>
<td class="wrap mono">{{ implode(', ', $r['dns']) }}@if($r['ptr'] !== '' && ! in_array($r['ptr'], $r['dns'], true)) <span class="hint">PTR {{ $r['ptr'] }}</span>@endif @if($r['dns'] === [] && $r['ptr'] === '')<span class="open">no</span>@endif</td>
<td class="mono">{{ $r['reserved']?->mac }}</td><td class="mono">@if($r['lease']){{ $r['lease']->mac }}<br><span class="hint" title="{{ $r['lease']->ends_at }}">until {{ $ago($r['lease']->ends_at) }}</span>@endif</td>
<td class="mono">@if($r['seen']){{ $r['seen']['mac'] ?? 'answered' }}<br><span class="hint" title="{{ $r['seen']['last'] }}">{{ $ago($r['seen']['last']) }}</span>@endif</td>
<td class="wrap">@if($r['verdict']['agrees'])<span class="okay"><x-mark name="ok"/> {{ $r['verdict']['words'] }}</span>@else<span class="warn"><x-mark name="warn"/> {{ $r['verdict']['words'] }}</span>@endif</td></tr>@endforeach
</tbody></table></div>@endif
@if($evidence['next'])<p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['from' => $evidence['next']]) }}">Further, from {{ $evidence['next'] }}</a></p>@endif
