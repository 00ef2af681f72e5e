<thead>
  <tr>
    <x-head :list="$listed" by="name">Person</x-head>
    <x-head :list="$listed" by="sign-in">Sign-in</x-head>
    <th>Roles</th>
    <x-head :list="$listed" by="tenant">Tenant</x-head>
    <x-head :list="$listed" by="open">Sign-in is</x-head>
    @if ($form)
      <th></th>
      <th class="act"></th>
    @endif
  </tr>
</thead>
<tbody>
  @foreach ($rows as $r)
    <tr @class(['editing' => $in->is($r->id)]) data-row="{{ $r->id }}">
      @if ($in->is($r->id))
        <td><x-field bare form="changeit" name="name" label="Name" :value="$r->name" autofocus /></td>
        <td class="mono">{{ $r->sign_in }}</td>
        <td>
          <x-field bare form="changeit" name="roles[]" label="Roles" multiple :value="$r->roles" :options="collect(\App\Models\Role::cases())
              ->mapWithKeys(fn($x) => [$x->value => str_replace('-', ' ', $x->value)])
              ->all()" />
        </td>
        <td>{{ $tenants[$r->tenant_id] ?? '' }}</td>
        <td>
          <x-field bare form="changeit" name="active" label="Sign-in is" :value="$r->active ? '1' : '0'" :options="['1' => 'open', '0' => 'closed']" />
        </td>
      @else
        <td class="name">
          @if ($form)
            <a href="{{ at('directory.person', $r->id) }}">{{ $r->name }}</a>
          @else
            {{ $r->name }}
          @endif
        </td>
        <td class="mono">{{ $r->sign_in }}</td>
        <td>{{ implode(', ', array_map(fn($x) => str_replace('-', ' ', $x), $r->roles)) }}</td>
        <td>{{ $tenants[$r->tenant_id] ?? '' }}</td>
        <td>
          @if ($r->program)
            a program, its tokens {{ $r->active ? 'hold' : 'are shut' }}
          @else
            {{ $r->active ? 'open' : 'closed' }}{{ $r->must_change ? ', password for one sign-in' : '' }}
          @endif
        </td>
      @endif
      @if ($form)
        <td>
          @if ($r->id !== $me->id && !$r->program)
            <span class="row">
              <form method="post" action="{{ at('act', 'reset-password') }}">
                @csrf
                <input type="hidden" name="then" value="commit">
                <input type="hidden" name="person" value="{{ $r->id }}">
                <button class="btn small" aria-label="Reset the password of {{ $r->name }}">Reset password</button>
              </form>
              <form method="post" action="{{ at('act', 'end-sessions') }}">
                @csrf
                <input type="hidden" name="then" value="commit">
                <input type="hidden" name="person" value="{{ $r->id }}">
                <button class="btn small" aria-label="End the sessions of {{ $r->name }}">End sessions</button>
              </form>
            </span>
          @endif
        </td>
        @if ($r->id === $me->id)
          <td class="act"></td>
        @else
          <x-row-act :$in :id="$r->id" :label="$r->name" tab />
        @endif
      @endif
    </tr>
  @endforeach
</tbody>
