<x-layout title="Test what was changed" verb="name">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('name') }}">Zones</a></li>
      @if ($zone)
        <li><a href="{{ at('name.zone', $zone->id) }}">{{ $zone->title() }}</a></li>
      @endif
      <li aria-current="page">Test what was changed</li>
    </ol>
  </nav>
  <header class="title">
    <h1>Test what was changed</h1>
    <span class="soft">the last day, each record set asked of its own servers, past every cache</span>
    <span class="end oneof"><a href="{{ at('name.test') }}" @unless ($mine) aria-current="true" @endunless>Everybody's</a>
      <a href="{{ at('name.test') }}?mine=1" @if ($mine) aria-current="true" @endif>Mine</a></span>
  </header>
  <section class="panel">
    @if ($rows === [])
      <div class="empty">
        <h3>Nothing was changed in the last day</h3>
      </div>
    @else
      <x-table label="What was changed" data-worktable>
        <thead>
          <tr>
            <th>Name</th>
            <th>Type</th>
            <th>Meant</th>
            <th>Answered</th>
            <th>Old answers until</th>
          </tr>
        </thead>
        <tbody>
          @foreach ($rows as $r)
            <tr>
              <td class="mono"><a
                  href="{{ at('name.zone.timeline', $r['zone']->id) }}?name={{ urlencode($r['owner']) }}">{{ $r['owner'] }}</a><br><span
                  class="hint">{{ $r['zone']->view->name }}{{ $r['waits'] ? ', waits to be shipped' : '' }}</span></td>
              <td>{{ $r['type'] }}</td>
              <td class="mono wrap">{{ implode(', ', $r['intended']) ?: 'nothing' }}</td>
              <td class="wrap">
                @foreach ($r['answers'] as $a)
                  <div>@mark(['right' => 'ok', 'wrong' => $r['waits'] ? 'wait' : 'stop', 'silent' => 'stop'][$a['state']], $a['state'])
                  {{ $a['server'] }}
                  @unless ($a['state'] === 'right')
                      <span class="mono">{{ $a['words'] }}</span>
                    @endunless
                  </div>
                @endforeach
              </td>
              <td>
                @if ($r['until'])
                  @if ($r['until']->isFuture())
                    {{ \App\View\Words::moment($r['until']) }}
                    <span class="hint">{{ $r['until']->diffForHumans() }}</span>
                  @else
                    <span class="open">gone from caches</span>
                  @endif
                @else
                  <span class="open">
                    {{ $r['waits'] ? 'not shipped yet' : ($r['answers'] === [] ? 'on no server' : 'a server still gives them') }}
                  </span>
                @endif
              </td>
            </tr>
          @endforeach
        </tbody>
      </x-table>
    @endif
  </section>
</x-layout>
