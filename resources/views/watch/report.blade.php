@php
  $last = null;
@endphp
<x-layout :title="$report->name" verb="watch">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('watch.reports') }}">Reports</a></li>
      <li aria-current="page">{{ $report->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $report->name }}</h1>
    <span class="soft">{{ number_format($count) }} {{ $count === 1 ? $report->kind->singular() : $report->kind->plural() }}
      {{ $report->site ? "of {$report->site->name}" : '' }} {{ $report->conditions === [] ? '' : 'where ' . $table->words() }}</span>
    <span class="end row">
      @foreach (['pdf' => 'PDF', 'xlsx' => 'XLSX', 'csv' => 'CSV', 'json' => 'JSON'] as $form => $text)
        <a class="btn small" href="{{ at('watch.report.table', $report->id, $form) }}">{{ $text }}</a>
      @endforeach
      <form method="post" action="{{ at('act', 'set-panels') }}">
        @csrf
        <input type="hidden" name="then" value="commit">
        <input type="hidden" name="report" value="{{ $report->id }}">
        <button class="btn small">On the bridge</button>
      </form>
      @if ($mine)
        <a class="btn small" href="{{ at('watch.reports.write') }}?report={{ $report->id }}">Change</a>
        <x-cut id="cut" action="remove-report" :input="['report' => $report->id]" label="Remove" />
      @endif
    </span>
  </header>
  <div class="split two">
    <section class="panel">
      @if ($rows === [])
        <x-empty title="Nothing is in it">
          {{ $report->conditions === [] ? 'There is no such object as far as you may see.' : 'Nothing fits what it asks for, as far as you may see.' }}
        </x-empty>
      @else
        <x-table :label="$report->name" data-worktable>
          <thead>
            <tr>
              @foreach ($table->columns as $fact)
                <th @class(['num' => $fact->type->isNumber()])>{{ $fact->label }}</th>
              @endforeach
            </tr>
          </thead>
          <tbody>
            @foreach ($rows as $row)
              @if ($report->by !== '' && $row['by'] !== $last)
                @php
                  $last = $row['by'];
                @endphp
                <tr class="group">
                  <th colspan="{{ count($table->columns) }}" scope="rowgroup">{{ $last === '' ? 'without' : $last }}
                    @isset($groups[$last])
                      <span class="soft">{{ number_format($groups[$last]) }}</span>
                    @endisset
                  </th>
                </tr>
              @endif
              <tr>
                @foreach ($row['cells'] as $key => $cell)
                  @php
                    $fact = $table->columns[$key];
                    $link = $loop->first ? \App\Pages\Pages::ofFact($report->kind, $row['id']) : null;
                  @endphp
                  <td @class(['num' => $fact->type->isNumber(), 'mono' => $fact->type->isMono(), 'name' => $loop->first])>
                    @if ($link)
                      <a href="{{ $link }}">{{ $cell }}</a>
                    @else
                      {{ $cell }}
                    @endif
                  </td>
                @endforeach
              </tr>
            @endforeach
          </tbody>
        </x-table>
        @if ($count > $shown)
          <p class="pad soft">The first {{ $shown }} of {{ number_format($count) }}. All of them are in the CSV.</p>
        @endif
      @endif
    </section>
    <aside class="side">
      <section class="panel">
        <header>
          <h2>When and to whom</h2>
        </header>
        <div class="pad">
          @if ($report->every === null)
            <p>Only looked at, here.</p>
          @else
            <p>{{ ucfirst($report->timetable()->words()) }}{{ $report->paused ? ', paused' : '' }}, to {{ implode(', ', $people) ?: 'nobody' }}.</p>
            @unless ($report->paused)
              <h3>Next runs</h3>
              <ul class="lines">
                @foreach ($report->timetable()->next(now()->toDateTimeImmutable(), 3) as $run)
                  <li>{{ $run->format('D j M Y, H:i T') }}</li>
                @endforeach
              </ul>
            @endunless
          @endif
          @if ($runs->isNotEmpty())
            <h3>Past runs</h3>
            <ul class="lines">
              @foreach ($runs as $run)
                <li>@mark(App\Models\ReportState::from($run->state)->mark())
                  {{ $run->done_at ? \Carbon\CarbonImmutable::parse($run->done_at)->format('j M, H:i') . ' UTC' : 'under way' }}:
                  {{ $run->words }}</li>
              @endforeach
            </ul>
          @endif
        </div>
      </section>
      @if ($groups !== [])
        <section class="panel">
          <header>
            <h2>By {{ lcfirst($table->by()?->label ?? '') }}</h2>
          </header>
          @php
            $most = max($groups);
          @endphp
          <ul class="bars pad">
            @foreach ($groups as $name => $n)
              <li><span>{{ $name === '' ? 'without' : $name }}</span><meter min="0" max="{{ $most }}" value="{{ $n }}"
                  aria-label="{{ $name === '' ? 'without' : $name }}">{{ $n }}</meter><b>{{ number_format($n) }}</b></li>
            @endforeach
          </ul>
        </section>
      @endif
    </aside>
  </div>
</x-layout>
