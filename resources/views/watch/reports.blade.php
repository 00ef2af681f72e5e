<x-layout title="Reports" verb="watch">
  <header class="title">
    <h1>Reports</h1>
    <span class="soft">each one as far as its reader may see</span>
    <span class="end row">
      @include('watch.tabs', ['here' => at('watch.reports')])
      <a class="btn main small" href="{{ at('watch.reports.write') }}">Write a report</a>
    </span>
  </header>
  <div class="split two">
    <section class="panel">
      @if ($reports->isEmpty())
        <x-empty title="No report yet">Choose what to list, of which site, above or below which figure, in which order. Look at it here, take it as
          PDF or CSV, or have it brought every Monday.</x-empty>
      @else
        <x-table label="Reports" data-worktable>
          <thead>
            <tr>
              <th>Report</th>
              <th>Lists</th>
              <th>Brought</th>
              <th>Next runs</th>
              <th>To</th>
              <th>By</th>
            </tr>
          </thead>
          <tbody>
            @foreach ($reports as $r)
              @php
                $table = $r->timetable();
              @endphp
              <tr>
                <td class="name"><a href="{{ at('watch.report', $r->id) }}">{{ $r->name }}</a></td>
                <td class="wrap">{{ $r->kind->plural() }}{{ $r->site ? " of {$r->site->name}" : '' }}</td>
                <td class="wrap">
                  @if ($table === null)
                    <span class="open">only looked at</span>
                  @else
                    {{ $table->words() }}
                    @if ($r->paused)
                      <br>@mark('wait') paused
                    @endif
                  @endif
                </td>
                <td>
                  @foreach ($table === null || $r->paused ? [] : $table->next(now()->toDateTimeImmutable(), 3) as $run)
                    {{ $run->format('D j M, H:i T') }}<br>
                  @endforeach
                </td>
                <td class="wrap">{{ collect($r->people)->map(fn($id) => $people[$id] ?? 'somebody who is gone')->implode(', ') }}</td>
                <td>{{ $r->author->name ?? 'nobody' }}</td>
              </tr>
            @endforeach
          </tbody>
        </x-table>
      @endif
    </section>
    <aside class="side">
      <section class="panel">
        <header>
          <h2>Brought to you</h2>
        </header>
        @if ($runs->isEmpty())
          <x-empty title="Nothing was brought to you yet">A report with a time stands here from its first run on.</x-empty>
        @else
          <ul class="lines pad">
            @foreach ($runs as $run)
              <li>
                @mark(App\Models\ReportState::from($run->state)->mark())
                @if ($run->state === App\Models\ReportState::Done->value)
                  <a href="{{ at('watch.run', $run->id) }}">{{ $run->name }}</a>
                @else
                  {{ $run->name }}
                @endif
                @unless ($run->seen_at || $run->state !== App\Models\ReportState::Done->value)
                  <b>new</b>
                @endunless
                <br><span class="hint">{{ $run->done_at ? \Carbon\CarbonImmutable::parse($run->done_at)->diffForHumans() : 'under way' }},
                  {{ $run->words }}</span>
              </li>
            @endforeach
          </ul>
        @endif
      </section>
    </aside>
  </div>
</x-layout>
