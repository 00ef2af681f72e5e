<x-layout title="Grants" verb="directory" :work="$may ? 'grant' : null" does="grant something">
  @include('directory.nav', ['current' => 'grants'])
  <header class="title">
    <h1>Grants</h1>
    <span class="soft">{{ $count }} beyond what roles give; a grant adds, and never takes away</span>
    <span class="end row"><a class="btn small" href="{{ at('directory.roles') }}">What roles do</a></span>
  </header>
  <div class="split @if ($may) two @endif">
    <section class="panel">
      <div class="bar-line">
        <form class="find" action="{{ at('directory.grants') }}">
          <label class="sr" for="filter">Filter</label>
          <svg viewBox="0 0 16 16" fill="none" stroke="currentColor" stroke-width="1.5" aria-hidden="true">
            <circle cx="7" cy="7" r="4.500" />
            <path d="m10.500 10.500 4 4" />
          </svg>
          <input type="search" id="filter" name="filter" value="{{ $filter }}" placeholder="a person, a team, a place" data-help-key="f"
            data-help-text="filter this list">
          <kbd aria-hidden="true">f</kbd>
        </form>
      </div>
      @if ($grants->isEmpty())
        <x-empty :title="$filter === '' ? 'Nothing is granted' : 'No grant tells of &quot;' . $filter . '&quot;'">
          @if ($filter === '')
            People do what their roles say. A grant gives somebody, or a team, more at one place: hosts in a prefix, the space of a site, the names
            of a zone.
          @else
            <a href="{{ at('directory.grants') }}">Show all</a>
          @endif
        </x-empty>
      @else
        <x-table label="Grants" data-worktable>
          <thead>
            <tr>
              <th>Who</th>
              <th>May</th>
              <th>Where</th>
              <th>Until, UTC</th>
              <th>Why</th>
              @if ($may)
                <th><span class="sr">Acts</span></th>
              @endif
            </tr>
          </thead>
          <tbody>
            @foreach ($grants as $g)
              <tr>
                <td class="name">
                  @if ($may)
                    <a href="{{ at('directory.grants') }}?grant={{ $g->id }}#grant">{{ ucfirst($g->holder()) }}</a>
                  @else
                    {{ ucfirst($g->holder()) }}
                  @endif
                </td>
                <td class="wrap">{{ implode(', ', array_map(fn($a) => $a->words(), $g->abilities())) }}</td>
                <td class="wrap">
                  @if ($there = $g->where())
                    {{ $there }}
                  @else
                    @mark('warn') what it named is gone: nothing is granted
                  @endif
                </td>
                <td class="num">
                  @if ($g->isOver())
                    @mark('warn') over since
                  @endif
                  {{ $g->until?->format('Y-m-d H:i') ?? '' }}
                </td>
                <td class="wrap soft">{{ $g->why }}</td>
                @if ($may)
                  <td>
                    <x-cut
                      :id="'cut' . $g->id"
                      action="remove-grant"
                      :input="['grant' => $g->id]"
                      target="#follows-grant"
                      label="Take back"
                      :of="$g->sentence()"
                    />
                  </td>
                @endif
              </tr>
            @endforeach
          </tbody>
        </x-table>
        @if ($count > $most)
          <p class="hint pad">The first {{ $most }} of {{ $count }} are listed.</p>
        @endif
      @endif
    </section>
    @if ($may)
      <div class="side">
        <section class="panel">
          <header>
            <h2>{{ $chosen ? 'Change a grant' : 'Grant something' }}</h2>
            @if ($chosen)
              <span class="end row"><a class="btn small" href="{{ at('directory.grants') }}#grant">A new one</a></span>
            @endif
          </header>
          <div class="pad">
            <x-act id="grant" action="keep-grant" :seen="$chosen ? ['grant:' . $chosen->id => $chosen->version] : []">
              @if ($chosen)
                <input type="hidden" name="id" value="{{ $chosen->id }}">
              @endif
              <div class="pair">
                <x-field form="grant" name="person" label="This person" pick="person" blank="name" :value="$chosen->person_id ?? ''"
                  :shown="$chosen->person->name ?? ''" />
                <x-field form="grant" name="team" label="or this team" pick="team" blank="name" :value="$chosen->team_id ?? ''"
                  :shown="$chosen->team->name ?? ''" />
              </div>
              <x-field form="grant" name="does[]" label="may" :options="array_column($abilities, 'words', 'value')"
                :value="$chosen?->does ?? ['look']" multiple data-all />
              <x-field form="grant" name="where" label="where" mono :value="$where ?: request()->query('where', '')"
                placeholder="10.40.8.0/22, site Tarbeck" hint="a prefix, a zone, a site, a tenant or a space, as it is called; or tag kiosk, stage planned" />
              <div class="pair">
                <x-field form="grant" name="until" label="until, UTC" mono :value="$chosen?->until?->format('Y-m-d H:i') ?? ''"
                  placeholder="2027-03-31" />
                <x-field form="grant" name="why" label="because" :value="$chosen->why ?? ''" />
              </div>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="grant" />
        <details class="panel" @if (old('_form') === 'copy') open @endif>
          <summary class="bar-line"><b>Copy those of a tenant to the next</b></summary>
          <div class="pad">
            <x-act id="copy" action="copy-grants">
              <div class="pair">
                <x-field form="copy" name="from" label="What is granted in" pick="tenant" blank="tenant" />
                <x-field form="copy" name="to" label="also in" pick="tenant" blank="tenant" />
              </div>
              <div class="pair">
                <x-field form="copy" name="person" label="to this person" pick="person" blank="name" />
                <x-field form="copy" name="team" label="or this team" pick="team" blank="name" />
              </div>
            </x-act>
          </div>
        </details>
        <div id="follows-copy"></div>
      </div>
    @endif
  </div>
</x-layout>
