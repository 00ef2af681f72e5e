@php
  $facts = collect($known);
  $orders = $facts->mapWithKeys(fn($f, $k) => [$k => "$f->label, smallest first", "-$k" => "$f->label, largest first"])->all();
  $same = $report && $report->kind === $kind;
  $days = ['1' => 'Monday', '2' => 'Tuesday', '3' => 'Wednesday', '4' => 'Thursday', '5' => 'Friday', '6' => 'Saturday', '7' => 'Sunday'];
@endphp
<x-layout title="Write a report" verb="watch" work="report" does="the report">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('watch.reports') }}">Reports</a></li>
      <li aria-current="page">{{ $report->name ?? 'Write a report' }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $report ? 'Change a report' : 'Write a report' }}</h1>
    <span class="soft">a sentence of choices</span>
  </header>
  <div class="split two">
    <section class="panel pad">
      @include('watch.rows-of', ['form' => 'report', 'row' => $report, 'page' => at('watch.reports.write'), 'label' => 'List'])
      <x-act id="report" action="keep-report" :seen="$report ? [$report->id => $report->version] : []">
        @include('watch.called', ['form' => 'report', 'row' => $report, 'example' => 'Full subnets', 'where' => 'Of the site, with all in it'])
        @include('watch.choices', [
            'form' => 'report',
            'name' => 'where',
            'legend' => 'Where',
            'any' => 'all of them',
            'chosen' => $same ? $report->conditions : [],
        ])
        <div class="pair">
          <x-field form="report" name="sort" label="Order" :options="$orders" blank="as they are named" :value="$same ? $report->sort : ''" />
          <x-field form="report" name="by" label="Together by" :options="$facts->map(fn($f) => $f->label)->all()" blank="nothing"
            :value="$same ? $report->by : ''" />
        </div>
        <x-field form="report" name="columns[]" label="Columns" multiple :options="$facts->map(fn($f) => $f->label)->all()"
          :value="$same ? $report->columns : $facts->keys()->take(6)->all()" />
        <div class="pair">
          <x-field form="report" name="every" label="Brought"
            :options="['' => 'never: only looked at', 'day' => 'every day', 'week' => 'every week on', 'month' => 'every month on day']"
            :value="$report?->every?->value ?? ''" />
          <x-field form="report" name="day" label="Day" type="number" min="1" max="31" :value="$report->day ?? 1"
            hint="1 is Monday, or the first of the month" />
          <x-field form="report" name="time" label="At" mono :value="$report->time ?? '07:00'" />
          <x-field form="report" name="zone" label="Time of" mono :value="$report->zone ?? 'Europe/London'" />
        </div>
        <x-field form="report" name="people[]" label="To" multiple :options="$people" :value="$report->people ?? []" />
        @if ($report)
          <x-field form="report" name="paused" label="Paused" :value="$report->paused ? '1' : '0'"
            :options="['0' => 'no', '1' => 'yes, until somebody goes on']" />
        @endif
      </x-act>
    </section>
    <aside class="by-form">
      <x-follows-slot form="report" />
    </aside>
  </div>
</x-layout>
