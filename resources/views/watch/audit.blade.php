<x-layout :title="$audit->name" verb="watch">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="{{ at('watch.audits') }}">Audits</a></li>
      <li aria-current="page">{{ $audit->name }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $audit->name }}</h1>
    <span class="soft">
      @if ($audit->run_at)
        {{ number_format($audit->failing) }} {{ $audit->failing === 1 ? 'fails' : 'fail' }}, run {{ $audit->run_at->diffForHumans() }}
      @else
        not run yet
      @endif
    </span>
    <span class="end row">
      @if ($may)
        <form method="post" action="{{ at('watch.audit.run', $audit->id) }}">@csrf
          <button class="btn small">Run it now</button>
        </form>
        <a class="btn small" href="{{ at('watch.audits.write') }}?audit={{ $audit->id }}">Change</a>
        <x-cut id="cut" action="remove-audit" :input="['audit' => $audit->id]" label="Remove" />
      @endif
    </span>
  </header>
  <div class="split two">
    <section class="panel">
      <p class="pad-all">{{ \App\Queries\AuditTable::sentence($audit) }} <span class="soft">{{ $audit->explanation }}
          @if ($audit->at_edit !== \App\Models\AtEdit::Off)
            When somebody edits: {{ $audit->at_edit->words() }}.
          @endif
        </span></p>
      @if ($mending && $open > 0)
        <p class="bar-line" data-needs-pick hidden>
          <x-all-match :field="$mending->picks" list="failing" :within="$audit->id" :total="$open" :shown="min($open, $shown)" />
          <b><span data-picked>0</span> picked</b>
          <span class="hint">mended at the right, all at once</span>
        </p>
      @endif
      @if ($findings->isEmpty())
        <x-empty title="Nothing fails">{{ $audit->run_at ? 'Each of them is as it must be.' : 'It was not run yet.' }}</x-empty>
      @else
        <x-table label="Findings" data-worktable>
          <thead>
            <tr>
              @if ($mending)
                <th class="pickcell"><input type="checkbox" data-pick-all aria-label="Pick all"></th>
              @endif
              <th>Fails</th>
              <th>Since</th>
              <th>Left so</th>
              @if ($may)
                <th><span class="sr">Acts</span></th>
              @endif
            </tr>
          </thead>
          <tbody>
            @foreach ($findings as $f)
              <tr @class(['open' => $f->waived_until !== null])>
                @if ($mending)
                  <td class="pickcell">
                    @if ($f->waived_until === null)
                      <input type="checkbox" class="pick" value="{{ $f->object_id }}" aria-label="Pick {{ $f->title }}">
                    @endif
                  </td>
                @endif
                <td class="name">
                  @if ($link = \App\Pages\Pages::ofFact($audit->kind, $f->object_id))
                    <a href="{{ $link }}">{{ $f->title }}</a>
                  @else
                    {{ $f->title }}
                  @endif
                </td>
                <td>{{ \Carbon\CarbonImmutable::parse($f->since)->diffForHumans() }}</td>
                <td class="wrap">{{ $f->waived_until ? "until $f->waived_until: $f->reason" : '' }}</td>
                @if ($may)
                  <td>
                    <details>
                      <summary>Leave it so</summary>
                      <form class="row" method="post" action="{{ at('act', 'waive-finding') }}">@csrf
                        <input type="hidden" name="audit" value="{{ $audit->id }}">
                        <input type="hidden" name="object" value="{{ $f->object_id }}">
                        <input type="date" name="until" aria-label="Until" required>
                        <input name="why" placeholder="why" aria-label="Why" maxlength="250" required>
                        <button class="btn small" name="then" value="preview">Leave it</button>
                      </form>
                    </details>
                  </td>
                @endif
              </tr>
            @endforeach
          </tbody>
        </x-table>
        @if ($findings->count() === $shown)
          <p class="pad soft">The first {{ $shown }} of {{ number_format($audit->failing) }}.</p>
        @endif
      @endif
    </section>
    <aside class="side">
      @if ($mending && $open > 0)
        <section class="panel">
          <header>
            <h2>Mend what is picked</h2>
            <span class="soft"><span data-picked>0</span> picked</span>
          </header>
          <div class="pad">
            <x-act id="mend" :action="$mending->act::key()" :data-takes-picks="$mending->picks . '[]'" :stay="at('watch.audit', $audit->id)">
              @foreach ($mending->fields as $field => $value)
                @include('watch.mend-field')
              @endforeach
              @if ($mending->own->isNotEmpty())
                @include('plan.own-fields', ['form' => 'mend', 'values' => [], 'blank' => true, 'fields' => $mending->own])
              @endif
              <p class="hint">A blank field stays as it is. What was mended is gone from here when the rule was run again.</p>
            </x-act>
          </div>
        </section>
        <x-follows-slot form="mend" />
      @endif
      <section class="panel">
        <header>
          <h2>Over time</h2>
        </header>
        <div class="pad">{{ \App\View\Sparkline::of($days->pluck('failing')->all(), 260, 70) }}
          <p class="hint">{{ $days->isEmpty() ? 'from its first run on' : 'since ' . $days->first()->day . ': ' . $days->pluck('failing')->implode(', ') }}</p>
        </div>
      </section>
    </aside>
  </div>
</x-layout>
