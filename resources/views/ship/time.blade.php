{{-- When a submitted draft becomes true by itself. Wants draft, outcome, sheet, stops, zones. --}}
@if ($draft->due_at && $draft->due_problem === '')
  <form method="post" action="{{ at('ship.draft.time', $draft->id) }}" class="row">
    @csrf
    <span class="grow">
      @mark('wait') committed by itself <b>{{ $draft->due_at->format('D j M H:i') }} UTC</b>{{ $need > 0 ? ', if it is agreed to by then' : '' }}
    </span>
    <button class="btn small">Remove the time</button>
  </form>
@endif
<details @if ($draft->due_problem !== '') open @endif>
  <summary class="hint">{{ $draft->due_at ? 'At another time' : 'At a time' }}</summary>
  <form method="post" action="{{ at('ship.draft.time', $draft->id) }}" class="form">
    @csrf
    <input type="hidden" name="shown" value="{{ $outcome->digest() }}">
    <div class="field"><span><label for="due-at">When</label></span>
      <input id="due-at" name="at" class="mono" required maxlength="16" placeholder="2026-12-24 22:00" autocomplete="off" value="{{ old('at') }}">
    </div>
    <div class="field"><span><label for="due-zone">By the clock of</label></span>
      <select id="due-zone" name="zone">
        @foreach ($zones as $zone)
          <option @selected($zone === old('zone', 'Europe/London'))>{{ $zone }}</option>
        @endforeach
      </select>
    </div>
    @if ($sheet->warns())
      <div class="field"><span><label for="due-reason">Why in spite of the warnings</label></span>
        <input id="due-reason" name="reason" maxlength="250" required value="{{ old('reason') }}">
      </div>
    @endif
    @foreach ($windows as [$words, $at])
      <p class="hint"><button type="button" class="btn small" data-offer="{{ $at }}" data-into="at">{{ $words }}</button></p>
    @endforeach
    <div class="decide"><button class="btn">Commit it then</button></div>
  </form>
</details>
