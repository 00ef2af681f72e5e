<x-layout :title="$server->name . ', root hints'" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li><a href="{{ at('name.resolvers') }}">Resolvers</a></li>
      <li aria-current="page">{{ $server->name }}, root hints</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Root hints of {{ $server->name }}</h1>
    <span class="soft">
      @if ($server->resolving['hints_at'] ?? null)
        from {{ $server->resolving['hints_from'] ?? 'a file' }}, {{ \Carbon\CarbonImmutable::parse($server->resolving['hints_at'])->diffForHumans() }}
      @else
        never taken in
      @endif
    </span>
    <span class="end row"><a class="btn small" href="{{ at('name.resolver.hints', $server->id) }}?prime=1">Ask a root server</a>
      <a class="btn small" href="{{ at('name.resolver.hints.file', $server->id) }}">Export</a></span>
  </header>
  @if ($problem)
    <div class="fault" role="alert">
      <h3>@mark('stop')No root server answered</h3>
      <p>{{ $problem }}</p>
    </div>
  @endif
  <div class="split two">
    <div class="stack">
      @if ($difference)
        <section class="panel">
          <header>
            <h2>Against what a root server says</h2>
            <span class="soft">by a priming query (RFC 9609)</span>
          </header>
          @if ($difference['added'] === [] && $difference['removed'] === [])
            <div class="empty">
              <h3>@mark('ok')The same</h3>
            </div>
          @else
            <ul class="diffs pad">
              @foreach ($difference['removed'] as $l)
                <li><span class="op stopped">− not there</span>
                  <span class="cutline">{{ $l }}</span>
                </li>
                @endforeach @foreach ($difference['added'] as $l)
                  <li><span class="op">+ new</span>
                    <span>{{ $l }}</span>
                  </li>
                @endforeach
            </ul>
          @endif
        </section>
      @endif
      <section class="panel">
        <header>
          <h2>Known</h2>
        </header>
        @if ($own->servers === [])
          <div class="empty">
            <h3>No root hints</h3>
            <p class="soft">This server cannot find the roots by itself. Take a hint file in, or ask a root server.</p>
          </div>
        @else
          <table>
            <thead>
              <tr>
                <th>Root server</th>
                <th>Addresses</th>
              </tr>
            </thead>
            <tbody>
              @foreach ($own->servers as $n => $a)
                <tr>
                  <td class="mono">{{ rtrim($n, '.') }}</td>
                  <td class="mono">{{ implode(', ', $a) }}</td>
                </tr>
              @endforeach
            </tbody>
          </table>
        @endif
      </section>
    </div>
    <aside class="side">
      @if ($may)
        <section class="panel">
          <header>
            <h2>{{ $primed ? 'Take over what was answered' : 'Take a hint file in' }}</h2>
          </header>
          <div class="pad">
            <x-act
              id="hints"
              action="change-resolving"
              :stay="at('name.resolver.hints', $server->id)"
            ><input type="hidden" name="servers[]" value="{{ $server->id }}">
              <input type="hidden" name="hintsFrom" value="{{ $primed ? 'a priming query' : 'a file' }}">
              <x-field form="hints" name="hints" label="Hint file" mono rows="8" :value="$primed ? $primed->text() : ''" />
              <x-check form="hints" name="emptyHints" label="empty the list, on purpose" /></x-act>
          </div>
        </section>
        <x-follows-slot form="hints" />
      @endif
    </aside>
  </div>
</x-layout>
