<x-layout title="Roles" verb="directory" :work="$may ? 'role' : null" does="say what a role does">
  @include('directory.nav', ['current' => 'people'])
  <header class="title">
    <h1>Roles</h1>
    <span class="soft">what each comes with, and what of that it does here; a grant gives one person or team more</span>
    <span class="end row">
      <a class="btn small" href="{{ at('directory.list', 'people') }}">People</a>
      <a class="btn small" href="{{ at('directory.grants') }}">Grants</a>
    </span>
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      <x-table label="Roles">
        <thead>
          <tr>
            <th>May</th>
            @foreach ($roles as $role)
              <th class="mid">
                @if ($may)
                  <a href="{{ at('directory.roles') }}?role={{ $role->value }}#role"
                    @if ($role === $chosen) aria-current="true" @endif>{{ ucfirst($role->words()) }}</a>
                @else
                  {{ ucfirst($role->words()) }}
                @endif
                <br><span class="hint">{{ $people[$role->value] ?? 0 }} {{ ($people[$role->value] ?? 0) === 1 ? 'person' : 'people' }}</span>
              </th>
            @endforeach
          </tr>
        </thead>
        <tbody>
          @foreach ($powers as $power)
            <tr>
              <td class="wrap"><b>{{ $power->words() }}</b><br><span class="hint">{{ $power->explained() }}</span></td>
              @foreach ($roles as $role)
                <td class="mid">
                  @if (in_array($power, $does[$role->value], true))
                    @mark('ok', 'may')
                    @if ($part = $role->only($power))
                      <span class="hint">{{ $part }}</span>
                    @endif
                  @elseif (in_array($power, $role->powers(), true))
                    @mark('stop', 'was taken away')
                  @else
                    <span class="soft"><span aria-hidden="true">·</span><span class="sr">does not come with it</span></span>
                  @endif
                </td>
              @endforeach
            </tr>
          @endforeach
        </tbody>
      </x-table>
      <p class="hint pad">@mark('stop') a steward took it away from the role. Readers see everything and write nothing; guests see and do what is granted.</p>
    </section>
    @if ($may)
      <div class="side">
        <section class="panel" id="role">
          <header>
            <h2>{{ $chosen ? 'What ' . $chosen->words() . 's do' : 'What a role does' }}</h2>
          </header>
          @if ($chosen)
            <div class="pad">
              <x-act id="keeprole" action="keep-role" :seen="$limit ? ['role:' . $limit->id => $limit->version] : []">
                <input type="hidden" name="role" value="{{ $chosen->value }}">
                <x-field form="keeprole" name="does[]" label="They may" multiple data-all :value="array_column($does[$chosen->value], 'value')"
                  :options="$words" />
              </x-act>
            </div>
          @else
            <x-empty title="Choose a role">At the head of its column. What is unticked is taken away from everybody who has the role; what is granted to
              somebody stays, and so does what another of their roles gives.</x-empty>
          @endif
        </section>
        @if ($chosen)
          <x-follows-slot form="keeprole" />
        @endif
      </div>
    @endif
  </div>
</x-layout>
