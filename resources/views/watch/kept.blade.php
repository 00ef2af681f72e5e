@php
  $in = \App\View\InRow::of($may ? array_map(fn($k) => $k['kind']->value, $kinds) : [], request('edit'), at('watch.kept'));
  $edited = collect($kinds)->first(fn($k) => $in->is($k['kind']->value));
  $day = fn($t) => $t === null ? '' : \Carbon\CarbonImmutable::parse($t)->format('j M Y');
  $steps = collect(\App\Domain\Watch\Folding::STEPS)->map(
      fn($s, $minutes) => ($minutes < 60 ? "$minutes min" : ($minutes < 1440 ? 'an hour' : 'a day')) . ' for ' . number_format($s[1]) . ' days',
  );
@endphp
<x-layout title="Kept" verb="watch">
  <header class="title">
    <h1>Kept</h1>
    <span class="soft">how long what is over is kept; what is older goes at night, a thousand rows at once</span>
    @include('watch.tabs', ['here' => at('watch.kept')])
  </header>
  <div class="split two">
    <section class="panel">
      <x-table label="Kept" data-worktable>
        <thead>
          <tr>
            <th>What</th>
            <th>Kept for</th>
            <th>Oldest</th>
            <th class="num">Rows</th>
            <th class="num">Size</th>
            <th class="num">Goes next</th>
            <th>Last time</th>
            @if ($may)
              <th class="act"></th>
            @endif
          </tr>
        </thead>
        <tbody>
          @foreach ($kinds as $k)
            @php
              $own = $in->is($k['kind']->value);
            @endphp
            <tr @class(['editing' => $own]) data-row="{{ $k['kind']->value }}">
              <td class="name">{{ $k['kind']->title() }}</td>
              <td>
                @if ($own)
                  <x-field bare form="keepfor" name="days" label="Days; blank: for ever" :value="(string) $k['rule']->days" inputmode="numeric"
                    placeholder="for ever" autofocus />
                @else
                  {{ $k['rule']->days === null ? 'for ever' : number_format($k['rule']->days) . ' days' }}
                @endif
              </td>
              <td>{{ $day($k['oldest']) }}</td>
              <td class="num">about {{ number_format($k['rows']) }}</td>
              <td class="num" data-key="{{ $k['bytes'] }}">{{ \App\View\Words::size($k['bytes']) }}</td>
              <td class="num">
                {{ $k['goes'] > \App\Queries\KeptRows::COUNTED ? 'over ' . number_format(\App\Queries\KeptRows::COUNTED) : number_format($k['goes']) }}
              </td>
              <td>
                @if ($k['rule']->trimmed_at)
                  {{ number_format($k['rule']->trimmed_rows) }} rows, {{ $k['rule']->trimmed_at->diffForHumans() }}
                @else
                  <span class="open">nothing went yet</span>
                @endif
              </td>
              @if ($may)
                <x-row-act :$in :id="$k['kind']->value" :label="$k['kind']->title()" tab />
              @endif
            </tr>
          @endforeach
          <tr>
            <td class="name">Figures of servers</td>
            <td class="wrap" colspan="2">{{ $steps->implode(', ') }}</td>
            <td class="num">about {{ number_format($figures[0]) }}</td>
            <td class="num" data-key="{{ $figures[1] }}">{{ \App\View\Words::size($figures[1]) }}</td>
            <td colspan="{{ $may ? 3 : 2 }}">folded as they get older</td>
          </tr>
          <tr>
            <td class="name">History</td>
            <td>for ever</td>
            <td>{{ $day($since) }}</td>
            <td class="num">about {{ number_format($history[0]) }}</td>
            <td class="num" data-key="{{ $history[1] }}">{{ \App\View\Words::size($history[1]) }}</td>
            <td colspan="{{ $may ? 3 : 2 }}">it is chained, and nothing of it is cut</td>
          </tr>
        </tbody>
      </x-table>
    </section>
    <div class="side">
      @if ($edited)
        <section class="panel">
          <header>
            <h2>{{ $edited['kind']->title() }}</h2>
          </header>
          <div class="pad">
            <p class="hint">{{ $edited['kind']->usual() }} days as it comes, {{ $edited['kind']->least() }} at least; blank keeps it for ever. What
              went does not come back.</p>
            @php
              $rule = $edited['rule'];
            @endphp
            <x-act id="keepfor" action="keep-retention" :seen="$rule->exists ? ['retention:' . $rule->id => $rule->version] : []" :stay="$in->out()"
              data-inrow :data-next="$in->next()">
              <input type="hidden" name="kind" value="{{ $edited['kind']->value }}">
            </x-act>
          </div>
        </section>
        <x-follows-slot form="keepfor" row />
      @else
        <p class="hint">Rows and sizes are those of whole tables, as the database estimates them. <span class="mono">data:trim --dry</span> says
          what would go.</p>
      @endif
    </div>
  </div>
</x-layout>
