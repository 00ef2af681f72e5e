<x-layout title="Zones inside zones" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      <li aria-current="page">Inside each other</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Zones inside zones</h1>
    <span class="soft">as planned; a line is whole where the zone above names the servers that the zone names itself (RFC 1034 §4.2.2)</span>
  </header>
  <section class="panel">
    <div class="bar-line">
      <form class="row" action="{{ at('name.tree') }}">
        <label for="under">Under</label>
        <input id="under" name="under" class="mono" value="{{ $under }}" placeholder="all zones" spellcheck="false" autocomplete="off">
        <button class="btn small">Show</button>
      </form>
      @if ($more)
        <span class="warn">@mark('warn') the {{ \App\Queries\Delegation\Tree::MOST }} shortest names of more; write where to begin</span>
      @endif
    </div>
    @if ($misread)
      <p class="pad wrong">@mark('stop')<span>{{ $misread }}</span></p>
    @elseif ($tree === [])
      <x-empty title="No zone lies there">
        {{ $under === '' ? 'Make the first one under Zones.' : 'Write a name that zones of ours lie under, or leave it blank for all.' }}
      </x-empty>
    @else
      {{ \App\View\Joined\Delegations::draw($tree) }}
    @endif
  </section>
  @if ($wrong !== [])
    <section class="panel">
      <header>
        <h2>Where no way leads</h2>
        <span class="soft">{{ count($wrong) }}</span>
      </header>
      <x-table label="Where no way leads">
        <thead>
          <tr>
            <th>Zone</th>
            <th>View</th>
            <th>Above</th>
            <th>What is wrong</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($wrong as $w)
            <tr>
              <td class="name mono"><a href="{{ at('name.zone', $w->zone->id) }}">{{ $w->zone->title() }}</a></td>
              <td>{{ $w->zone->view->name }}</td>
              <td class="mono"><a href="{{ at('name.zone', $w->above->id) }}">{{ $w->above->title() }}</a></td>
              <td class="wrap">{{ $w->words() }}</td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
    </section>
  @endif
</x-layout>
