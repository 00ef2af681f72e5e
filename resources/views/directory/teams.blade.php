<x-layout title="Teams" verb="directory" :work="$may ? 'team' : null" does="make a team">
  @include('directory.nav', ['current' => 'teams'])
  <header class="title">
    <h1>Teams</h1>
    <span class="soft">people who are asked together: a rule of agreement may ask some of one</span>
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      @if ($teams->isEmpty())
        <x-empty title="No team">A team has a name and its people. A rule may ask two of one to agree, in place of any two approvers.</x-empty>
      @else
        <x-table label="Teams" data-worktable>
          <thead>
            <tr>
              <th>Team</th>
              <th>People</th>
              <th>Asked when</th>
              @if ($may)
                <th><span class="sr">Acts</span></th>
              @endif
            </tr>
          </thead>
          <tbody>
            @foreach ($teams as $t)
              <tr>
                <td class="name">
                  @if ($may)
                    <a href="{{ at('directory.teams') }}?team={{ $t->id }}#team">{{ $t->name }}</a>
                  @else
                    {{ $t->name }}
                  @endif
                  @if ($t->description !== '')
                    <br><span class="hint">{{ $t->description }}</span>
                  @endif
                  @if ($t->outside_group !== '')
                    <br><span class="hint">its people come from the group <span class="mono">{{ $t->outside_group }}</span></span>
                  @endif
                </td>
                <td class="wrap">
                  @forelse ($t->members as $m)
                    <span @class(['soft' => !$m->person->agrees()])>{{ $m->person->name }}{{ $loop->last ? '' : ',' }}</span>
                  @empty
                    <span class="open">nobody</span>
                  @endforelse
                </td>
                <td class="wrap">
                  @foreach ($rules[$t->id] ?? [] as $r)
                    <a href="{{ at('ship.rules') }}">{{ $r->rule()->sentence() }}</a>
                  @endforeach
                </td>
                @if ($may)
                  <td>
                    <x-cut :id="'cut' . $t->id" action="remove-team" :input="['team' => $t->id]" target="#follows-team" label="Remove" :of="$t->name" />
                  </td>
                @endif
              </tr>
            @endforeach
          </tbody>
        </x-table>
        <p class="hint pad">Who is written lightly may not agree to drafts: they lack the role, or may not sign in.</p>
      @endif
    </section>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>{{ $chosen ? 'Change ' . $chosen->name : 'Make a team' }}</h2>
            @if ($chosen)
              <span class="end row"><a class="btn small" href="{{ at('directory.teams') }}#team">A new one</a></span>
            @endif
          </header>
          <div class="pad">
            <x-act id="team" action="keep-team" :seen="$chosen ? ['team:' . $chosen->id => $chosen->version] : []">
              @if ($chosen)
                <input type="hidden" name="id" value="{{ $chosen->id }}">
              @endif
              <x-field form="team" name="name" label="Name" :value="$chosen->name ?? ''" />
              <x-field form="team" name="description" label="Description" :value="$chosen->description ?? ''" />
              @if (config('harbor.oidc.issuer') !== '')
                <x-field form="team" name="group" :label="'Group at ' . config('harbor.oidc.name')" :value="$chosen->outside_group ?? ''"
                  hint="who is in it follows that group, at each sign-in; blank: decided here" />
              @else
                <input type="hidden" name="group" value="{{ $chosen->outside_group ?? '' }}">
              @endif
              <x-field form="team" name="people[]" label="People" :options="$people->pluck('name', 'id')->all()"
                :value="$chosen?->members->pluck('person_id')->all() ?? []" multiple />
            </x-act>
          </div>
        </section>
        <x-follows-slot form="team" />
      </div>
    @endif
  </div>
</x-layout>
