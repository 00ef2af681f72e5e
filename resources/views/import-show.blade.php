@php
  $running = in_array($import->state, ['reading', 'taking']);
  $stopped = ['headings' => 'Its columns are not all known', 'judged' => 'It was not taken over; nothing was written'];
  $labels = ['add' => 'to add', 'change' => 'to change', 'same' => 'the same', 'cut' => 'not in the file', 'refused' => 'refused'];
@endphp
<x-layout :title="'Import of ' . $import->file_name" :verb="$import->kind === 'zone' ? 'name' : 'plan'">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="/import?kind={{ $import->kind }}&amp;target={{ $import->target_id }}">Imports</a></li>
      <li aria-current="page">{{ $import->file_name }}</li>
    </ol>
  </nav>
  <div id="import-body" class="stack"
    @if ($running) hx-get="/import/{{ $import->id }}" hx-trigger="every 1s" hx-select="#import-body" hx-swap="outerHTML" @endif>
    <header class="title">
      <h1>{{ $import->file_name }}</h1>
      <span class="soft">{{ implode(', ', array_filter([App\Models\Import::STATES[$import->state], $import->format])) }}</span>
    </header>
    @if ($running)
      <section class="panel pad-all">
        <label for="bar">{{ $import->state === 'reading' ? number_format($import->lines) . ' lines read' : 'Writing in one transaction' }}</label>
        @if ($import->state === 'reading')
          <progress id="bar" max="100" value="{{ $import->percent() }}"></progress>
          <form method="post" action="/import/{{ $import->id }}/cancel">@csrf
            <button class="btn small">Cancel</button>
          </form>
        @else
          <progress id="bar"></progress>
        @endif
      </section>
    @endif
    @if ($import->message)
      <div class="fault" role="alert">
        <h3>@mark('stop'){{ $stopped[$import->state] ?? 'It stopped' }}</h3>
        <p>{{ $import->message }}</p>
      </div>
    @endif
    @if ($headings !== [])
      <section class="panel">
        <header>
          <h2>What the columns mean</h2>
        </header>
        <form class="form pad" method="post" action="/import/{{ $import->id }}/columns">
          @csrf
          @foreach ($headings as $i => $heading)
            @php
              $key = mb_strtolower($heading);
              $now = $maps[$key] ?? (App\Domain\Plan\PlanColumns::has($key) ? $key : '');
            @endphp
            <div class="field">
              <span><label for="column-{{ $i }}">{{ $heading === '' ? 'a column without a heading' : $heading }}</label></span>
              <select id="column-{{ $i }}" name="column[{{ $key }}]">
                <option value="">pass it over</option>
                @foreach (App\Domain\Plan\PlanColumns::ALL as $column)
                  <option value="{{ $column }}" @selected($column === $now)>{{ str_replace('_', ' ', $column) }}</option>
                @endforeach
                @if (str_starts_with($key, 'own:'))
                  <option value="{{ $key }}" @selected($key === $now)>{{ $key }}</option>
                @endif
              </select>
            </div>
          @endforeach
          <div class="field">
            <span><label for="map-name">Remember it as</label></span>
            <input id="map-name" name="name" maxlength="60" autocomplete="off">
            <span class="hint">the next file with these headings is read the same way</span>
          </div>
          <div class="decide"><button class="btn main" data-key="main">Read it so <kbd>Ctrl Enter</kbd></button></div>
        </form>
        <form method="post" action="/import/{{ $import->id }}/cancel" class="decide pad">@csrf
          <button class="btn">Cancel the import</button>
        </form>
      </section>
    @endif
    @if ($import->counts !== [] && $headings === [])
      <div class="split two">
        <section class="panel">
          <div class="bar-line">
            <span class="oneof">
              @foreach ($labels as $v => $label)
                @continue($v === 'cut' && $import->kind === 'plan')
                <a href="?verdict={{ $v }}"
                  @if ($v === $verdict) aria-current="true" @endif>{{ number_format($import->counts[$v] ?? 0) }} {{ $label }}</a>
              @endforeach
            </span>
            @if (($import->counts['refused'] ?? 0) > 0)
              <a class="btn small" href="/import/{{ $import->id }}/refused">Refused rows as a file</a>
            @endif
          </div>
          @if ($rows->isEmpty())
            <div class="empty">
              <h3>None</h3>
            </div>
          @else
            <x-table label="Rows" data-worktable :data-paged="$next !== null || request('after') !== null">
              <thead>
                <tr>
                  <th class="num">Line</th>
                  <th>What</th>
                  <th>{{ $verdict === 'change' ? 'Old and new' : 'Reason' }}</th>
                </tr>
              </thead>
              <tbody>
                @foreach ($rows as $r)
                  <tr>
                    <td class="num">{{ $r->line ?: '' }}</td>
                    <td class="mono wrap">{{ $r->what }}</td>
                    <td class="wrap">
                      @if ($verdict === 'refused')
                        @mark('stop')
                      @endif{{ $r->reason }}
                    </td>
                  </tr>
                @endforeach
              </tbody>
            </x-table>
            @if ($next)
              <p class="bar-line"><a href="{{ request()->fullUrlWithQuery(['after' => $next]) }}">Further</a></p>
            @endif
          @endif
        </section>
        <aside class="side">
          @if ($import->state === 'judged')
            <section class="follows" aria-label="The file as judged">
              <h2>The file as judged</h2>
              <ol class="wake">
                <li>@mark('add')<span>{{ number_format($import->counts['add'] ?? 0) }} added</span></li>
                <li>@mark('turn')<span>{{ number_format($import->counts['change'] ?? 0) }} changed</span></li>
                @if (($import->counts['refused'] ?? 0) > 0)
                  <li>@mark('stop')<span>{{ number_format($import->counts['refused']) }} refused stay out; the list says why</span></li>
                @endif
              </ol>
              <form method="post" action="/import/{{ $import->id }}/take-over">
                @csrf
                @if (($import->counts['cut'] ?? 0) > 0)
                  <p><label class="tick"><input type="checkbox" name="removals" value="1">also remove
                      {{ number_format($import->counts['cut']) }} records that the file does not have</label></p>
                @endif
                <div class="decide"><button class="btn main" data-key="main">Take over as one <kbd>Ctrl Enter</kbd></button></div>
              </form>
              <form method="post" action="/import/{{ $import->id }}/cancel" class="decide">@csrf
                <button class="btn">Cancel the import</button>
              </form>
            </section>
            @if ($import->toWrite() > 0 && $import->toWrite() <= App\Acts\Imports\TakeOver::MOST)
              <x-act id="takeover" action="take-over">
                <input type="hidden" name="import" value="{{ $import->id }}">
                @if (($import->counts['cut'] ?? 0) > 0)
                  <x-check form="takeover" name="removals" label="also remove what the file does not have" />
                @endif
              </x-act>
              <x-follows-slot form="takeover" button="Rehearse it, or put it in a draft" />
            @endif
          @elseif ($import->state === 'failed')
            <form method="post" action="/import/{{ $import->id }}/cancel" class="decide">@csrf
              <button class="btn">Cancel the import</button>
            </form>
          @else
            <section class="panel pad-all"><a href="{{ $target }}">Open {{ $import->kind === 'plan' ? 'the plan' : 'the zone' }}</a></section>
          @endif
        </aside>
      </div>
    @endif
  </div>
</x-layout>
