<x-table label="Servers">
  <thead>
    <tr>
      <th>Server</th>
      @if ($prefix->family === 4)
        <th class="num">Offers held back, ms</th>
        <th class="num">Probed for, ms</th>
      @endif
      <th>Shipped</th>
      <th>Proved</th>
    </tr>
  </thead>
  <tbody>
    @forelse ($scope->placements as $p)
      <tr>
        <td><a href="{{ at('ship.server', $p->server_id) }}">{{ $p->server->name }}</a></td>
        @if ($prefix->family === 4)
          <td class="num">{{ $p->delay_ms ?: '' }}</td>
          <td class="num">
            @if ($p->server->probe_tries > 0)
              {{ $p->server->probe_tries * $p->server->probe_wait_ms }}
            @endif
          </td>
        @endif
        <td>
          @if ($p->shipped_at)
            <span title="{{ $p->shipped_at }}">
              {{ $p->shipped_at->diffForHumans() }}{{ $p->shipped_digest !== $digests[$p->server_id] ? ', changed since' : '' }}
            </span>
          @else
            <span class="open">not yet</span>
          @endif
        </td>
        <td>
          @if ($p->verified_at)
            <span title="{{ $p->verified_at }}">{{ $p->verified_at->diffForHumans() }}</span>
          @else
            <span class="open">not yet</span>
          @endif
        </td>
      </tr>
    @empty
      <tr class="open">
        <td colspan="5">on no server</td>
      </tr>
    @endforelse
  </tbody>
</x-table>
