@php
  $ago = fn($t) => $t === null ? '' : $t->diffForHumans(['short' => true]);
@endphp
@if ($evidence['rows'] === [])
  <div class="empty">
    <h3>{{ $conflicts ? 'Nothing disagrees on this page' : 'Nothing is known of any address here' }}</h3>
    <p class="soft">
      {{ $conflicts ? 'What is planned, named, reserved, leased and seen tells the same.' : 'Place a host, lease an address, or scan the subnet.' }}
    </p>
  </div>
@else
  @if ($mayPlace && $scope)
    <div class="bar-line"><span data-needs-pick hidden class="row"><b><span data-picked>0</span> picked</b>
        <form id="leases" method="post" action="{{ at('act', 'take-leases') }}" class="row" hx-post="{{ at('act', 'take-leases') }}" hx-target="#follows-leases"
          hx-swap="innerHTML">@csrf
          <input type="hidden" name="_form" value="leases">
          <input type="hidden" name="prefix" value="{{ $prefix->id }}"><label class="tick"><input type="checkbox" name="macs"
              value="1">over planned MACs</label>
          <label class="tick"><input type="checkbox" name="names" value="1">over planned names</label>
          <label class="tick"><input type="checkbox" name="reserve" value="1">reserve new ones</label>
          <button class="btn small" name="then" value="preview">Take leases into the plan</button>
        </form>
      </span></div>
    <div id="follows-leases"></div>
  @endif
  <x-table label="Evidence" data-worktable :data-paged="$evidence['next'] !== null || request('from') !== null">
    <thead>
      <tr>
        @if ($mayPlace && $scope)
          <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all leases"></th>
        @endif
        <th>Address</th>
        <th>Planned</th>
        <th>In DNS</th>
        <th>Reserved</th>
        <th>Leased</th>
        <th>Seen</th>
        <th>Verdict</th>
      </tr>
    </thead>
    <tbody>
      @foreach ($evidence['rows'] as $r)
        <tr>
          @if ($mayPlace && $scope)
            <td class="pickcell">
              @if ($r['lease'])
                <input type="checkbox" class="pick" form="leases" name="addresses[]" value="{{ $r['address'] }}"
                  aria-label="Pick the lease of {{ $r['address'] }}">
              @endif
            </td>
          @endif
          <td class="mono">
            @if ($r['host'])
              <a href="{{ at('plan.prefix', $prefix->id) }}?address={{ $r['address'] }}">{{ $r['address'] }}</a>
              @else{{ $r['address'] }}
            @endif
          </td>
          <td class="wrap mono">
            @if ($r['host'])
              @if ($r['host']->name === '')
                <span class="open">no name</span>
              @else
                <span title="{{ $r['host']->name }}">{{ Str::before($r['host']->name, '.') }}</span>
              @endif
              <br><span class="hint">{{ $r['host']->mac }}</span>
            @elseif($r['gateway'])
              gateway
            @else
              <span class="open">no</span>
            @endif
          </td>
          <td class="wrap mono">
            @foreach ($r['dns'] as $n)
              <span title="{{ $n }}">{{ $r['host'] && $n === $r['host']->name ? 'same name' : $n }}</span>
              @if (!$loop->last)
                <br>
              @endif
              @endforeach @if ($r['ptr'] !== '' && !in_array($r['ptr'], $r['dns'], true))
                <span class="hint">PTR {{ $r['ptr'] }}</span>
                @endif @if ($r['dns'] === [] && $r['ptr'] === '')
                  <span class="open">no</span>
                @endif
          </td>
          <td class="mono">{{ $r['reserved']?->mac }}</td>
          <td class="mono">
            @if ($r['lease'])
              {{ $r['lease']->mac }}
              <br><span class="hint" title="{{ $r['lease']->ends_at }}">until {{ $ago($r['lease']->ends_at) }}</span>
            @endif
          </td>
          <td class="mono">
            @if ($r['seen'])
              {{ $r['seen']['mac'] ?? 'answered' }}
              <br><span class="hint" title="{{ $r['seen']['last'] }}">{{ $ago($r['seen']['last']) }}</span>
            @endif
          </td>
          <td class="wrap">
            @if ($r['verdict']['agrees'])
              <span class="okay">@mark('ok') {{ $r['verdict']['words'] }}</span>
            @else
              <span class="warn">@mark('warn') {{ $r['verdict']['words'] }}</span>
            @endif
          </td>
        </tr>
      @endforeach
    </tbody>
  </x-table>
@endif
@if ($evidence['next'])
  <p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['from' => $evidence['next']]) }}">Further, from {{ $evidence['next'] }}</a></p>
@endif
