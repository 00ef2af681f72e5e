<section class="panel">
  <header>
    <h2>Leases</h2>
    <span class="soft">{{ number_format($leased) }} active, as last read from the servers</span>
    @if ($leased > 0)
      <a class="end" href="{{ at('lease.leases') }}?scope={{ $scope->id }}">All of them</a>
    @endif
  </header>
  @if ($leases->isEmpty())
    <p class="pad open">none that is active</p>
  @else
    <x-table label="Leases" data-worktable>
      <thead>
        <tr>
          <th>Address</th>
          <th>Client</th>
          <th>Client's name</th>
          <th>Server</th>
          <th>Until</th>
        </tr>
      </thead>
      <tbody>
        @foreach ($leases as $l)
          <tr>
            <td class="mono"><a href="{{ at('lease.lease', $l->id) }}">{{ $l->given() }}</a></td>
            <td class="mono" title="{{ $l->clientWords() }}">{{ Str::limit($l->client(), 23) }}</td>
            <td>{{ $l->host_name }}</td>
            <td>{{ $l->server->name }}</td>
            <td title="{{ $l->ends_at }}" data-key="{{ $l->ends_at->getTimestamp() }}">
              {{ $l->ends_at->diffForHumans(['parts' => 2, 'short' => true]) }}</td>
          </tr>
        @endforeach
      </tbody>
    </x-table>
  @endif
</section>
