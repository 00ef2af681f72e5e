<thead>
  <tr>
    <th>Person</th>
    <th>Sign-in</th>
    <th>Roles</th>
    <th>Tenant</th>
    <th>Sign-in is</th>
    @if ($steward)
      <th></th>
    @endif
  </tr>
</thead>
<tbody>
  @foreach ($rows as $r)
    <tr>
      <td class="name">
        @if ($steward)
          <a href="/directory/person/{{ $r->id }}">{{ $r->name }}</a>
        @else
          {{ $r->name }}
        @endif
      </td>
      <td class="mono">{{ $r->sign_in }}</td>
      <td>{{ implode(', ', array_map(fn($x) => str_replace('-', ' ', $x), $r->roles)) }}</td>
      <td>{{ $tenants[$r->tenant_id] ?? '' }}</td>
      <td>{{ $r->active ? 'open' : 'closed' }}{{ $r->must_change ? ', password for one sign-in' : '' }}</td>
      @if ($steward)
        <td class="row">
          @if ($r->id !== $me->id)
            <form method="post" action="/act/change-person">
              @csrf
              <input type="hidden" name="then" value="commit">
              <input type="hidden" name="person" value="{{ $r->id }}">
              <input type="hidden" name="active" value="{{ $r->active ? '0' : '1' }}">
              <button class="btn small"
                aria-label="{{ $r->active ? 'Close' : 'Open' }} the sign-in of {{ $r->name }}">{{ $r->active ? 'Close' : 'Open' }}</button>
            </form>
            <form method="post" action="/act/reset-password">
              @csrf
              <input type="hidden" name="then" value="commit">
              <input type="hidden" name="person" value="{{ $r->id }}">
              <button class="btn small" aria-label="Reset the password of {{ $r->name }}">Reset password</button>
            </form>
            <form method="post" action="/act/end-sessions">
              @csrf
              <input type="hidden" name="then" value="commit">
              <input type="hidden" name="person" value="{{ $r->id }}">
              <button class="btn small" aria-label="End the sessions of {{ $r->name }}">End sessions</button>
            </form>
          @endif
        </td>
      @endif
    </tr>
  @endforeach
</tbody>
