{{-- What a pool hands out: $handed of App\Queries\HandedOut --}}
<header>
  <h2>Handed out</h2>
  <span class="soft">{{ number_format($handed->count) }} {{ $handed->count === 1 ? 'prefix is' : 'prefixes are' }} out, as last read from the servers</span>
</header>
@if ($handed->delegations->isEmpty())
  <p class="pad open">no scope delegates parts of it</p>
@else
  <ul class="plain-list pad">
    @foreach ($handed->delegations as $d)
      <li>
        <span class="mono">{{ $d->delegation() }}</span>
        by {{ $d->server?->name ?? 'every server of the scope' }}, in <a href="{{ at('lease.scope', $d->scope_id) }}">{{ $d->scope->name }}</a>
      </li>
    @endforeach
  </ul>
@endif
@if ($handed->leases->isNotEmpty())
  <x-table label="Prefixes that are out">
    <thead>
      <tr>
        <th>Prefix</th>
        <th>Client</th>
        <th>Name</th>
        <th>Server</th>
        <th>Until</th>
      </tr>
    </thead>
    <tbody>
      @foreach ($handed->leases as $l)
        <tr>
          <td class="mono"><a href="{{ at('lease.lease', $l->id) }}">{{ $l->given() }}</a></td>
          <td class="mono" title="{{ $l->clientWords() }}">{{ Str::limit($l->client(), 23) }}</td>
          <td>{{ $l->host_name }}</td>
          <td>{{ $l->server->name }}</td>
          <td title="{{ $l->ends_at }}">{{ $l->ends_at->diffForHumans(['parts' => 2, 'short' => true]) }}</td>
        </tr>
      @endforeach
    </tbody>
  </x-table>
  @if ($handed->count > $handed->leases->count())
    <p class="pad hint">The first {{ $handed->leases->count() }} of them.</p>
  @endif
@endif
