@php
  $needed = $outcome->needs ?? [];
  $need = $counts[0]['rule']->needs ?? 0;
  $have = $counts[0]['have'] ?? $agreed->count();
  $refused = $standing->where('verdict', App\Models\DraftVerdict::Refused);
  $committed = $draft->state === App\Models\DraftState::Committed;
  $ready = $waits && $outcome && !$outcome->blocked() && $have >= $need && $refused->isEmpty() && $sheet->undecided === 0;
  $said = $agreed->count() . ' agreed';
  $said = $need > 0 ? $have . ' of ' . $need . ' agreed' : ($agreed->isEmpty() ? 'no agreement needed' : $said);
  $end = $draft->due_at && $waits ? 'committed by itself ' . $draft->due_at->format('D j M H:i') . ' UTC' : 'committed';
  $known = !$waits || ($outcome && !$outcome->blocked());
  $said = $known ? $said : 'agreement is known when it holds';
  $course = [
      ['drafted', $draft->started_at, true],
      ['submitted', $draft->submitted_at, $draft->submitted_at !== null],
      [$said, $agreed->max('at'), $known && $have >= $need],
      [$end, $committed ? $draft->ended_at : null, $committed],
  ];
@endphp
<x-layout :title="$draft->line()" verb="ship">
  @include('ship.draft-path', ['here' => $draft->line()])
  <header class="title">
    <h1>{{ $draft->line() }}</h1>
    <span class="soft">by {{ $draft->person->name }}, {{ $draft->edits->count() }} {{ Str::plural('edit', $draft->edits->count()) }}</span>
    @if ($committed && !auth()->user()->isBound())
      <span class="end row">
        <a class="btn small" href="{{ at('watch') }}?object={{ $draft->id }}">History</a>
        @if (App\Acts\Watch\TakeBack::permits(auth()->user()))
          <a class="btn small" href="{{ at('watch.back') }}?draft={{ $draft->id }}">Take it back</a>
        @endif
      </span>
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
  @if ($draft->due_problem !== '')
    <div class="fault" role="alert">
      <h3>@mark('stop')It was not committed at its time</h3>
      <p>{{ $draft->due_problem }}</p>
      <p class="soft">It was to be {{ $draft->due_at?->format('D j M H:i') }} UTC. Give it another time, commit it now, or take it back.</p>
    </div>
  @endif
  <div class="split two">
    <div class="stack">
      @if ($draft->why !== '')
        <section class="panel">
          <p class="pad-all">{{ $draft->why }}</p>
        </section>
      @endif
      @include('ship.edits', ['changes' => false, 'decides' => $mine && $waits, 'said' => $draft->remarks])
      @include('ship.stops')
      @include('ship.said', ['speaks' => $waits])
    </div>
    <aside class="side">
      <section class="follows" aria-label="What follows">
        <h2>What follows</h2>
        @if (!$outcome)
          <p class="cause">{{ $draft->state->value }} {{ $draft->ended_at?->diffForHumans() }}</p>
        @else
          <p class="cause">as it is now, rehearsed with the rights of its author</p>
          <div class="scroll" tabindex="0" role="region" aria-label="What would be written">
            @if ($outcome->trouble)
              <p class="wrong">{{ $outcome->trouble }}</p>
            @endif
            <h3>Written <span>{{ number_format($outcome->rows()) }} {{ Str::plural('row', $outcome->rows()) }}</span></h3>
            @if ($sheet->notes() !== [])
              <ul class="checks">
                @foreach ($sheet->notes() as $note)
                  @include('act.note')
                @endforeach
              </ul>
            @else
              <p>@mark('ok') every check passed</p>
            @endif
          </div>
          @include('ship.needs', ['needs' => $needed])
          @if ($decides)
            <form method="post" action="{{ at('ship.draft.decide', $draft->id) }}" class="form">
              @csrf
              <input type="hidden" name="digest" value="{{ $digest }}">
              @if ($sheet->undecided > 0)
                <p class="cause hint">{{ $sheet->undecided === 1 ? 'One edit is' : $sheet->undecided . ' edits are' }} undecided: agree when
                  {{ $draft->person->name }} has chosen.</p>
              @endif
              <div class="field"><span><label for="decide-reason">Reason; needed to refuse</label></span>
                <input id="decide-reason" name="reason" maxlength="2000" value="{{ old('reason') }}">
              </div>
              <div class="decide">
                <button class="btn main" name="verdict" value="agreed" data-key="main" @disabled($sheet->undecided > 0)>Agree <kbd>Ctrl
                    Enter</kbd></button>
                <button class="btn stop" name="verdict" value="refused">Refuse</button>
              </div>
            </form>
          @endif
          @if ($mine)
            @if ($ready)
              <form method="post" action="{{ at('ship.draft.commit', $draft->id) }}" class="form">
                @csrf
                <input type="hidden" name="shown" value="{{ $outcome->digest() }}">
                @if ($sheet->warns())
                  <div class="field"><span><label for="reason">Why in spite of the warnings</label></span>
                    <input id="reason" name="reason" maxlength="250" required>
                  </div>
                @endif
                <div class="decide"><button class="btn main" data-key="main">Commit as one <kbd>Ctrl Enter</kbd></button></div>
              </form>
            @endif
            @if ($sheet->undecided === 0 && !$outcome->blocked())
              @include('ship.time')
            @endif
            <form method="post" action="{{ at('ship.draft.reopen', $draft->id) }}" class="decide">
              @csrf
              <button class="btn">Take it back and change it</button>
            </form>
            @if ($steward && !$ready)
              <details>
                <summary class="hint">An emergency</summary>
                <form method="post" action="{{ at('ship.draft.commit', $draft->id) }}" class="form">
                  @csrf
                  <input type="hidden" name="emergency" value="1">
                  <div class="field"><span><label for="emergency">What the emergency is; every approver is told</label></span>
                    <input id="emergency" name="reason" maxlength="250" minlength="10" required>
                  </div>
                  <div class="field"><span><label for="surely">Your password, once more</label></span>
                    <input id="surely" name="password" type="password" autocomplete="current-password" required>
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
