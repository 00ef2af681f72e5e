@php
  $needs = $outcome->needs ?? [];
  $page = at('ship.draft', $draft->id);
@endphp
<x-layout :title="$draft->line()" verb="ship">
  @include('ship.draft-path', ['here' => $draft->line()])
  <header class="title">
    <h1>{{ $draft->title !== '' ? $draft->title : 'My draft' }}</h1>
    <span class="soft">{{ $draft->edits->count() }} {{ Str::plural('edit', $draft->edits->count()) }} since
      {{ $draft->started_at->format('j M H:i') }}, none of them true yet{{ $mine ? '' : '; by ' . $draft->person->name }}</span>
    <span class="end row">
      @if ($current)
        <span class="soft">@mark('ok') your edits go here</span>
      @else
        <form method="post" action="{{ at('act', 'take-up-draft') }}">
          @csrf
          <input type="hidden" name="then" value="commit">
          <input type="hidden" name="draft" value="{{ $draft->id }}">
          <input type="hidden" name="stay" value="{{ $page }}">
          <button class="btn small">Work on this draft</button>
        </form>
      @endif
      <a class="btn small" href="{{ at('ship.drafts') }}">All drafts</a>
    </span>
  </header>
  <div class="split two">
    <div class="stack">
      @if ($draft->edits->isEmpty())
        <section class="panel">
          <x-empty title="The draft is empty">Every edit can be added to it instead of being committed: carve a subnet, place its hosts, make the
            scope, and commit them as one.</x-empty>
        </section>
      @else
        @include('ship.edits', ['changes' => true, 'decides' => $mine, 'said' => $draft->remarks])
      @endif
      @include('ship.stops')
      @include('ship.said', ['speaks' => true])
    </div>
    <aside class="side">
      @if ($outcome)
        <section class="follows" aria-label="What follows">
          <h2>What follows</h2>
          <p class="cause">Rehearsed as a whole{{ $mine ? '' : ' with the rights of ' . $draft->person->name }}: executed and rolled back</p>
          <div class="scroll" tabindex="0" role="region" aria-label="What would be written">
            <h3>Written <span>{{ number_format($outcome->rows()) }} {{ Str::plural('row', $outcome->rows()) }}</span></h3>
            @if ($outcome->trouble)
              <p class="wrong">{{ $outcome->trouble }}</p>
            @endif
            @if ($sheet->notes() !== [])
              <h3>Checks <span>{{ count($sheet->notes()) }}</span></h3>
              <ul class="checks">
                @foreach ($sheet->notes() as $note)
                  @include('act.note')
                @endforeach
              </ul>
            @else
              <p>@mark('ok') every check passed</p>
            @endif
          </div>
          @include('ship.needs', ['needs' => $needs])
          @if ($mine)
            @if ($needs === [])
              <form id="commit" method="post" action="{{ $page }}/commit">
                @csrf
                <input type="hidden" name="shown" value="{{ $outcome->digest() }}">
                @if ($sheet->warns())
                  <div class="field"><span><label for="reason">Why in spite of the warnings</label></span>
                    <input id="reason" name="reason" maxlength="250" required>
                  </div>
                @endif
                <div class="decide">
                  <button class="btn main" data-key="main" @disabled($outcome->blocked() || $sheet->undecided > 0)>Commit as one <kbd>Ctrl
                      Enter</kbd></button>
                </div>
              </form>
            @endif
            <details @if ($needs !== []) open @endif>
              <summary class="hint">Ask others first</summary>
              <form method="post" action="{{ $page }}/submit" class="form">
                @csrf
                <div class="field"><span><label for="draft-title">What it is, in a few words</label></span>
                  <input id="draft-title" name="title" maxlength="120" required value="{{ old('title', $draft->title) }}">
                </div>
                <div class="field"><span><label for="draft-why">Why</label></span>
                  <textarea id="draft-why" name="why" rows="2" maxlength="2000">{{ old('why', $draft->why) }}</textarea>
                </div>
                <div class="decide">
                  <button class="btn {{ $needs !== [] ? 'main' : '' }}" @disabled($outcome->blocked() || $sheet->undecided > 0)
                    @if ($needs !== []) data-key="main" @endif>Submit it</button>
                </div>
              </form>
            </details>
          @else
            <p class="cause hint">{{ $draft->person->name }} submits and commits it. What you add goes in with your own rights.</p>
          @endif
        </section>
      @endif
      @include('ship.hands')
    </aside>
  </div>
</x-layout>
