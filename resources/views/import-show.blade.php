@php
  use App\Models\ImportState;
  use App\Models\RowVerdict;

  $running = $import->state->runs();
@endphp
<x-layout :title="'Import of ' . $import->file_name" :verb="$import->kind === 'zone' ? 'name' : 'plan'">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('import') }}?kind={{ $import->kind }}&amp;target={{ $import->target_id }}">Imports</a></li>
      <li aria-current="page">{{ $import->file_name }}</li>
    </ol>
  </nav>
  <div id="import-body" class="stack"
    @if ($running) hx-get="{{ at('import.one', $import->id) }}" hx-trigger="every 1s" hx-select="#import-body" hx-swap="outerHTML" @endif>
    <header class="title">
      <h1>{{ $import->file_name }}</h1>
      <span class="soft">{{ implode(', ', array_filter([$import->state->words(), $import->format])) }}</span>
    </header>
    @if ($running)
      <section class="panel pad-all">
        <label for="bar">{{ $import->state === ImportState::Reading ? number_format($import->lines) . ' lines read' : 'Writing in one transaction' }}</label>
        @if ($import->state === ImportState::Reading)
          <progress id="bar" max="100" value="{{ $import->percent() }}"></progress>
          <form method="post" action="{{ at('import.cancel', $import->id) }}">@csrf
            <button class="btn small">Cancel</button>
          </form>
        @else
          <progress id="bar"></progress>
        @endif
      </section>
    @endif
    @if ($import->message)
      <div class="fault" role="alert">
        <h3>@mark('stop'){{ $import->state->stopped() }}</h3>
        <p>{{ $import->message }}</p>
      </div>
    @endif
    @if ($headings !== [])
      <section class="panel">
        <header>
          <h2>What the columns mean</h2>
        </header>
        <form class="form pad" method="post" action="{{ at('import.columns', $import->id) }}">
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
        <form method="post" action="{{ at('import.cancel', $import->id) }}" class="decide pad">@csrf
          <button class="btn">Cancel the import</button>
        </form>
      </section>
    @endif
    @if ($import->counts !== [] && $headings === [])
      <div class="split two">
        <section class="panel">
          <div class="bar-line">
            <span class="oneof">
              @foreach (RowVerdict::JUDGED as $v)
                @continue($v === RowVerdict::Cut && $import->kind === 'plan')
                <a href="?verdict={{ $v->value }}"
                  @if ($v === $verdict) aria-current="true" @endif>{{ number_format($import->count($v)) }} {{ $v->words() }}</a>
              @endforeach
            </span>
            @if ($import->count(RowVerdict::Refused) > 0)
              <a class="btn small" href="{{ at('import.refused', $import->id) }}">Refused rows as a file</a>
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
                  <th>{{ $verdict === RowVerdict::Change ? 'Old and new' : 'Reason' }}</th>
                </tr>
              </thead>
              <tbody>
                @foreach ($rows as $r)
                  <tr>
                    <td class="num">{{ $r->line ?: '' }}</td>
                    <td class="mono wrap">{{ $r->what }}</td>
                    <td class="wrap">
                      @if ($verdict === RowVerdict::Refused)
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
          @if ($import->state === ImportState::Judged)
            <section class="follows" aria-label="The file as judged">
              <h2>The file as judged</h2>
              <ol class="wake">
                <li>@mark('add')<span>{{ number_format($import->count(RowVerdict::Add)) }} added</span></li>
                <li>@mark('turn')<span>{{ number_format($import->count(RowVerdict::Change)) }} changed</span></li>
                @if ($import->count(RowVerdict::Refused) > 0)
                  <li>@mark('stop')<span>{{ number_format($import->count(RowVerdict::Refused)) }} refused stay out; the list says why</span></li>
                @endif
              </ol>
              <form method="post" action="{{ at('import.take-over', $import->id) }}">
                @csrf
                @if ($import->count(RowVerdict::Cut) > 0)
                  <p><label class="tick"><input type="checkbox" name="removals" value="1">also remove
                      {{ number_format($import->count(RowVerdict::Cut)) }} records that the file does not have</label></p>
                @endif
                <div class="decide"><button class="btn main" data-key="main">Take over as one <kbd>Ctrl Enter</kbd></button></div>
              </form>
              <form method="post" action="{{ at('import.cancel', $import->id) }}" class="decide">@csrf
                <button class="btn">Cancel the import</button>
              </form>
            </section>
            @if ($import->toWrite() > 0 && $import->toWrite() <= App\Acts\Imports\TakeOver::MOST)
              <x-act id="takeover" action="take-over">
                <input type="hidden" name="import" value="{{ $import->id }}">
                @if ($import->count(RowVerdict::Cut) > 0)
                  <x-check form="takeover" name="removals" label="also remove what the file does not have" />
                @endif
              </x-act>
              <x-follows-slot form="takeover" button="Rehearse it, or put it in a draft" />
            @endif
          @elseif ($import->state === ImportState::Failed)
            <form method="post" action="{{ at('import.cancel', $import->id) }}" class="decide">@csrf
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
