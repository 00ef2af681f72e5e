@php
  $needed = $outcome->needs ?? [];
  $need = $needed[0]->needs ?? 0;
  $refused = $standing->where('verdict', 'refused');
  $waits = $draft->state === 'submitted';
  $ready = $waits && $outcome && !$outcome->blocked() && $agreed->count() >= $need && $refused->isEmpty();
  $said = $agreed->count() . ' agreed';
  $said = $need > 0 ? $agreed->count() . ' of ' . $need . ' agreed' : ($agreed->isEmpty() ? 'no agreement needed' : $said);
  $course = [
      ['drafted', $draft->started_at, true],
      ['submitted', $draft->submitted_at, $draft->submitted_at !== null],
      [$said, $agreed->max('at'), $agreed->count() >= $need],
      ['committed', $draft->state === 'committed' ? $draft->ended_at : null, $draft->state === 'committed'],
  ];
@endphp
<x-layout :title="$draft->line()" verb="ship">
  <nav aria-label="Above">
    <ol class="path">
      <li><a href="/ship">Ship</a></li>
      <li><a href="/ship/drafts">Drafts</a></li>
      <li aria-current="page">{{ $draft->line() }}</li>
    </ol>
  </nav>
  <header class="title">
    <h1>{{ $draft->line() }}</h1>
    <span class="soft">by {{ $draft->person->name }}, {{ $draft->edits->count() }} {{ Str::plural('edit', $draft->edits->count()) }}</span>
    @if ($draft->state === 'committed' && !auth()->user()->isBound())
      <span class="end row"><a class="btn small" href="/watch?object={{ $draft->id }}">History</a></span>
    @endif
  </header>
  <ol class="course" aria-label="Course">
    @foreach ($course as [$words, $at, $reached])
      <li @class(['reached' => $reached])>
        @mark($reached ? 'ok' : 'wait')
        <span>{{ $words }}</span>
        <span class="hint" title="{{ $at }}">{{ $at?->diffForHumans() ?? '' }}</span>
      </li>
    @endforeach
  </ol>
  <div class="split two">
    <div class="stack">
      @if ($draft->why !== '')
        <section class="panel">
          <p class="pad-all">{{ $draft->why }}</p>
        </section>
      @endif
      <section class="panel">
        <header>
          <h2>Edits, in order</h2>
        </header>
        <ol class="edits">
          @foreach ($draft->edits as $i => $e)
            @php
              $l = $outcome?->ledgers[$i] ?? null;
              $block = $l ? collect($l->notes)->firstWhere('verdict', 'blocked') : null;
            @endphp
            <li>
              <p>
                <b>{{ $e->title }}</b>
                @if ($block)
                  <span class="stopped">@mark('stop') {{ $block->message }}.</span> {{ $block->why }}
                @elseif ($outcome && !$l)
                  <span class="open">not reached</span>
                @elseif ($l)
                  <span class="soft">{{ number_format($l->rows()) }} {{ Str::plural('row', $l->rows()) }}</span>
                @endif
              </p>
              @if ($l && $l->rows() > 0)
                @php
                  $what = new \App\View\Follows(new \App\Acts\Engine\Outcome([$l], false), 0);
                @endphp
                <ul class="wake">
                  @foreach (array_slice($l->written, 0, 12) as $row)
                    @include('act.row')
                  @endforeach
                  @if ($l->rows() > 12)
                    <li class="hint">and {{ number_format($l->rows() - min(12, count($l->written))) }} more</li>
                  @endif
                </ul>
              @endif
              @foreach ($draft->remarks->where('edit_id', $e->id) as $r)
                <p class="remark"><b>{{ $r->person->name }}</b> <span class="hint">{{ $r->at->diffForHumans() }}</span> {{ $r->text }}</p>
              @endforeach
              @if ($waits)
                <details>
                  <summary class="hint">Say something of this edit</summary>
                  <form method="post" action="/ship/drafts/{{ $draft->id }}/remark" class="row">
                    @csrf
                    <input type="hidden" name="edit" value="{{ $e->id }}">
                    <input name="text" maxlength="2000" required aria-label="Remark on edit {{ $i + 1 }}" class="grow">
                    <button class="btn small">Say it</button>
                  </form>
                </details>
              @endif
            </li>
          @endforeach
        </ol>
      </section>
      <section class="panel">
        <header>
          <h2>Said of it</h2>
        </header>
        <div class="pad-all">
          @forelse ($draft->decisions as $d)
            <p class="remark"><b>{{ $d->person->name }}</b>
              {{ ['agreed' => 'agreed', 'refused' => 'refused', 'emergency' => 'committed it in an emergency, without agreement'][$d->verdict] }}
              <span class="hint" title="{{ $d->at }}">{{ $d->at->diffForHumans() }}{{ $d->void_at ? ', does not count any more' : '' }}</span>
              {{ $d->reason }}
            </p>
          @empty
            <p class="open">nothing was decided yet</p>
          @endforelse
          @foreach ($draft->remarks->whereNull('edit_id') as $r)
            <p class="remark"><b>{{ $r->person->name }}</b> <span class="hint">{{ $r->at->diffForHumans() }}</span> {{ $r->text }}</p>
          @endforeach
          @if ($waits)
            <form method="post" action="/ship/drafts/{{ $draft->id }}/remark" class="row">
              @csrf
              <input name="text" maxlength="2000" required aria-label="Remark on the draft" class="grow">
              <button class="btn small">Say it</button>
            </form>
          @endif
        </div>
      </section>
    </div>
    <aside class="side">
      <section class="follows" aria-label="What follows">
        <h2>What follows</h2>
        @if (!$outcome)
          <p class="cause">{{ $draft->state }} {{ $draft->ended_at?->diffForHumans() }}</p>
        @else
          <p class="cause">as it is now, rehearsed with the rights of its author</p>
          <div class="scroll" tabindex="0" role="region" aria-label="What would be written">
            @if ($outcome->trouble)
              <p class="wrong">{{ $outcome->trouble }}</p>
            @endif
            <h3>Written <span>{{ number_format($outcome->rows()) }} {{ Str::plural('row', $outcome->rows()) }}</span></h3>
            @php
              $notes = collect($outcome->notes())->where('verdict', '!=', 'passed');
            @endphp
            @if ($notes->isNotEmpty())
              <ul class="checks">
                @foreach ($notes as $note)
                  @include('act.note')
                @endforeach
              </ul>
            @else
              <p>@mark('ok') every check passed</p>
            @endif
          </div>
          @include('ship.needs', ['needs' => $needed])
          @if ($decides)
            <form method="post" action="/ship/drafts/{{ $draft->id }}/decide" class="form">
              @csrf
              <input type="hidden" name="digest" value="{{ $digest }}">
              <div class="field"><span><label for="decide-reason">Reason; needed to refuse</label></span>
                <input id="decide-reason" name="reason" maxlength="2000" value="{{ old('reason') }}">
              </div>
              <div class="decide">
                <button class="btn main" name="verdict" value="agreed" data-key="main">Agree <kbd>Ctrl Enter</kbd></button>
                <button class="btn stop" name="verdict" value="refused">Refuse</button>
              </div>
            </form>
          @endif
          @if ($mine)
            @if ($ready)
              <form method="post" action="/ship/drafts/{{ $draft->id }}/commit" class="form">
                @csrf
                <input type="hidden" name="shown" value="{{ $outcome->digest() }}">
                @if ($notes->contains('verdict', 'warned'))
                  <div class="field"><span><label for="reason">Why in spite of the warnings</label></span>
                    <input id="reason" name="reason" maxlength="250" required>
                  </div>
                @endif
                <div class="decide"><button class="btn main" data-key="main">Commit as one <kbd>Ctrl Enter</kbd></button></div>
              </form>
            @endif
            <form method="post" action="/ship/drafts/{{ $draft->id }}/reopen" class="decide">
              @csrf
              <button class="btn">Take it back and change it</button>
            </form>
            @if ($steward && !$ready)
              <details>
                <summary class="hint">An emergency</summary>
                <form method="post" action="/ship/drafts/{{ $draft->id }}/commit" class="form">
                  @csrf
                  <input type="hidden" name="emergency" value="1">
                  <div class="field"><span><label for="emergency">What the emergency is; every approver is told</label></span>
                    <input id="emergency" name="reason" maxlength="250" minlength="10" required>
                  </div>
                  <div class="decide"><button class="btn stop">Commit without agreement</button></div>
                </form>
              </details>
            @endif
          @endif
        @endif
      </section>
    </aside>
  </div>
</x-layout>
